'use client';
import { ChevronDown, ChevronLeft, ChevronRight, ChevronUp } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { Button } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, focusRing, TABLET, UPRIGHT } from '@/ui/tokens';

const Box = styled.aside`
  /* what only a screen reader finds stays within its scroll */
  position: relative;
  min-width: 0;
  border-left: 1px solid ${COLOUR.line};
  overflow-y: auto;
  /* a finding that comes in above must not scroll what is below: an open menu closes by it */
  overflow-anchor: none;
  > div {
    position: relative;
    overflow-anchor: none;
  }
  ${TABLET} {
    display: grid;
    grid-template-rows: 44px minmax(0, 1fr);
    width: 312px;
    overflow: hidden;
    > div {
      overflow-y: auto;
    }
    &[data-folded] {
      width: 44px;
      > div {
        display: none;
      }
    }
  }
  ${UPRIGHT} {
    width: auto;
    height: 36dvh;
    border-left: 0;
    border-top: 1px solid ${COLOUR.line};
    &[data-folded] {
      width: auto;
      height: 45px;
    }
  }
`;

/** Folds the panel away and back; there is none where there is room for all. */
const Handle = styled(Button)`
  display: none;
  ${TABLET} {
    display: flex;
    align-items: center;
    justify-content: space-between;
    min-height: 44px;
    padding: 0 13px;
    border: 0;
    background: ${COLOUR.raised};
    font-weight: 600;
    text-align: left;
    cursor: default;
    svg {
      width: 18px;
      height: 18px;
    }
    svg:last-child {
      display: none;
    }
  }
  ${UPRIGHT} {
    svg:last-child {
      display: block;
    }
    svg:first-of-type {
      display: none;
    }
  }
  &[data-focus-visible] {
    ${focusRing}
    outline-offset: -3px;
  }
  [data-folded] > & span {
    ${TABLET} {
      display: none;
    }
    ${UPRIGHT} {
      display: inline;
    }
  }
`;

/** The panel of a station: beside the picture, and on a small tablet a sheet that folds, so that the picture has the whole of it. */
export function Sheet({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  const [folded, setFolded] = useState(false);
  return (
    <Box aria-label={name} data-folded={folded ? '' : undefined}>
      <Handle
        aria-expanded={!folded}
        aria-label={`${folded ? 'Open' : 'Fold'} the panel ${name}`}
        onPress={() => setFolded(!folded)}
      >
        <span>Controls</span>
        {folded ? <ChevronLeft aria-hidden /> : <ChevronRight aria-hidden />}
        {folded ? <ChevronUp aria-hidden /> : <ChevronDown aria-hidden />}
      </Handle>
      <div>{children}</div>
    </Box>
  );
}
