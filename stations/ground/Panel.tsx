'use client';
import { pictureGrid } from '@/core/recipe/pictureGrid';
import { platesOnGround } from '@/store/standingPlates';
import { useBench, useProject } from '../benchContext';
import { StationFindings } from '../stationFindings';
import { AirSection } from './AirSection';
import { LightSection } from './LightSection';
import { PlatesSection } from './PlatesSection';
import { SpaceSection } from './SpaceSection';
import { StandSection } from './StandSection';
import { GROUND_TEXT as TEXT } from './text';

/** One space, one light, one air for everything that is put into the picture. */
export function GroundPanel() {
  const project = useProject();
  const chosen = useBench((s) => s.session.layer);
  const plates = platesOnGround(project);
  const grid = pictureGrid(project);
  const plate = plates.find((p) => p.layer.id === chosen) ?? plates.at(-1);
  const { space } = project;
  return (
    <>
      <StationFindings station="ground" title={TEXT.name} none={TEXT.none} />
      <PlatesSection plates={plates} chosen={chosen} />
      {plate && <StandSection plate={plate} />}
      {grid && <SpaceSection grid={grid} />}
      {space && <LightSection space={space} plate={plate} />}
      {space && <AirSection space={space} />}
    </>
  );
}
