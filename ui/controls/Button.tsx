'use client';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { COLOUR, focusRing, touchable } from '../tokens';

/** A button; `data-main` marks the one action that a place is about, `data-plain` one without a frame. */
export const Button = styled(AriaButton)`
  ${touchable}
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 6px;
  padding: 0 11px;
  border: 1px solid ${COLOUR.control};
  border-radius: 3px;
  background: ${COLOUR.raised};
  color: ${COLOUR.ink};
  font-weight: 500;
  cursor: default;
  white-space: nowrap;
  &[data-hovered] {
    background: ${COLOUR.hover};
  }
  &[data-pressed] {
    background: ${COLOUR.sunken};
  }
  &[data-focus-visible] {
    ${focusRing}
  }
  &[data-disabled] {
    opacity: 0.45;
  }
  &[data-main] {
    background: ${COLOUR.act};
    border-color: ${COLOUR.act};
    color: ${COLOUR.onAct};
  }
  &[data-main][data-hovered] {
    background: ${COLOUR.actHover};
  }
  &[data-plain] {
    border-color: transparent;
    background: transparent;
    padding: 0 6px;
  }
  &[data-plain][data-hovered] {
    background: ${COLOUR.sunken};
  }
  svg {
    width: 15px;
    height: 15px;
    flex: none;
  }
`;
