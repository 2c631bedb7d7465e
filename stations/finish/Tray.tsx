'use client';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { type CropRatio } from '@/core/finish/cropRatio';
import { proposedCrop } from '@/core/recipe/cropOf';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { baseScope } from '@/core/recipe/setFrames';
import { type Project } from '@/core/recipe/project';
import { setGraph } from '@/core/recipe/setGraph';
import { setGeometry } from '@/store/edits/geometry';
import { smallMerge } from '@/store/smallMerge';
import { remember } from '@/store/remember';
import { type Rectangle } from '@/core/raster/raster';
import { Thumbnail } from '@/ui/Thumbnail';
import { COLOUR, focusRing, FONT } from '@/ui/tokens';
import { useActions, useBench } from '../benchContext';
import { FINISH_TEXT as TEXT } from './text';

const Strip = styled.div`
  height: 100%;
  padding: 9px 14px;
`;

const Heading = styled.h2`
  font-size: 13px;
  font-weight: 600;
  margin-bottom: 9px;
`;

const Cards = styled.ul`
  display: flex;
  gap: 12px;
  padding: 3px;
  overflow-x: auto;
`;

const Card = styled(Button)`
  width: 118px;
  padding: 8px 9px 5px;
  border: 1px solid ${COLOUR.line};
  background: ${COLOUR.raised};
  text-align: left;
  cursor: default;
  > div {
    position: relative;
    margin-bottom: 4px;
  }
  canvas {
    display: block;
    width: 100%;
  }
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  &[aria-pressed='true'] {
    box-shadow: 0 0 0 2px ${COLOUR.act};
    border-color: ${COLOUR.act};
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: 4px;
  }
  small {
    display: block;
    font: 11px/1.4 ${FONT.number};
    white-space: nowrap;
  }
`;

const RATIOS = Object.keys(TEXT.ratios) as CropRatio[];

/** The proposed crop of every ratio, searched anew only when it can have changed. */
const cropsOf = remember(
  (project: Project) => RATIOS.map((ratio) => ({ ratio, crop: proposedCrop(withRatio(project, ratio)) })),
  (project) => {
    const scope = baseScope(project);
    const { straighten, upright } = project.geometry;
    return [scope && setGraph(scope).merge, project.made, straighten, upright];
  },
);

/** The proposed crop of every ratio, drawn in the reference's frame. */
export function FinishTray() {
  const { project, small } = useBench((s) => {
    const scope = baseScope(s.history.project);
    return { project: s.history.project, small: scope && smallMerge(s, scope) };
  });
  const actions = useActions();
  const { geometry } = project;
  const reference = pictureGrid(project);
  const crops = small ? cropsOf(project) : [];
  if (!reference) return null;
  return (
    <Strip>
      <Heading>{TEXT.tray}</Heading>
      <Cards>
        {crops.map(
          ({ ratio, crop }) =>
            crop && (
              <li key={ratio}>
                <Card
                  aria-pressed={ratio === geometry.ratio && !geometry.crop}
                  onPress={() =>
                    actions.edit(
                      `Crop ${TEXT.ratios[ratio].toLowerCase()}`,
                      setGeometry({ ratio, crop: undefined }),
                    )
                  }
                >
                  <div>
                    {small && <Thumbnail image={small} label="" />}
                    <svg viewBox={`0 0 ${reference.width} ${reference.height}`} aria-hidden>
                      <path
                        d={around(reference, crop)}
                        fill={COLOUR.raised}
                        fillOpacity="0.88"
                        fillRule="evenodd"
                      />
                      <rect {...crop} fill="none" stroke={COLOUR.ink} strokeWidth={reference.width / 110} />
                    </svg>
                  </div>
                  <small>
                    {TEXT.ratios[ratio]} ·{' '}
                    {Math.round((100 * crop.width * crop.height) / (reference.width * reference.height))} %
                  </small>
                  <small>
                    {crop.width} × {crop.height}
                  </small>
                </Card>
              </li>
            ),
        )}
      </Cards>
    </Strip>
  );
}

function around(whole: { width: number; height: number }, { x, y, width, height }: Rectangle): string {
  return `M0 0H${whole.width}V${whole.height}H0ZM${x} ${y}h${width}v${height}h${-width}Z`;
}

function withRatio(project: Project, ratio: CropRatio): Project {
  return { ...project, geometry: { ...project.geometry, ratio } };
}
