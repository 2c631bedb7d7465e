'use client';
import { useEffect, useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { Toggle } from '@/ui/controls/Toggle';
import { Hint, Row, Section } from '@/ui/Section';
import { Thumbnail } from '@/ui/Thumbnail';
import { COLOUR } from '@/ui/tokens';
import { useBench } from '../benchContext';
import { PROOF_TEXT } from './text';

const TEXT = PROOF_TEXT.fresh;

const Pictures = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(100px, 1fr));
  gap: 8px;
  figure {
    margin: 0;
  }
  figure > :first-child {
    display: block;
    width: 100%;
    background: ${COLOUR.table};
  }
  figcaption {
    padding-top: 4px;
    font-size: 11.5px;
    color: ${COLOUR.quiet};
  }
  &[data-mirrored] figure > :first-child {
    transform: scaleX(-1);
  }
  &[data-grey] figure > :first-child {
    filter: grayscale(1);
  }
`;

/** The whole picture small, mirrored and in greys, beside what it was when the project was opened: what the eye has got used to shows again. */
export function FreshEyes() {
  const { image, earlier } = useBench((s) => ({ image: s.finished?.image, earlier: s.earlier }));
  const [isMirrored, setMirrored] = useState(false);
  const [isGrey, setGrey] = useState(false);
  const address = useMemo(
    () => earlier && URL.createObjectURL(new Blob([earlier.slice()], { type: 'image/jpeg' })),
    [earlier],
  );
  useEffect(() => () => void (address && URL.revokeObjectURL(address)), [address]);
  if (!image) return null;
  return (
    <Section title={TEXT.title}>
      <Row>
        <Toggle label={TEXT.mirrored} value={isMirrored} onChange={setMirrored} />
        <Toggle label={TEXT.grey} value={isGrey} onChange={setGrey} />
      </Row>
      <Pictures data-mirrored={isMirrored ? '' : undefined} data-grey={isGrey ? '' : undefined}>
        <figure>
          <Thumbnail image={image} label={TEXT.now} />
          <figcaption>{TEXT.now}</figcaption>
        </figure>
        {address && (
          <figure>
            {/* eslint-disable-next-line @next/next/no-img-element -- a picture that lies in memory */}
            <img src={address} alt={TEXT.earlier} />
            <figcaption>{TEXT.earlier}</figcaption>
          </figure>
        )}
      </Pictures>
      <Hint>{TEXT.hint}</Hint>
    </Section>
  );
}
