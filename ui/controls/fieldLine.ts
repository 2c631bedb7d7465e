import { css } from 'styled-components';
import { COLOUR, touchable } from '../tokens';

/** A label and the field that is typed in beside it. */
export const fieldLine = css`
  display: grid;
  grid-template-columns: 92px 1fr;
  align-items: center;
  gap: 10px;
  input {
    ${touchable}
    min-width: 0;
    padding: 0 8px;
    border: 1px solid ${COLOUR.control};
    border-radius: 3px;
    background: ${COLOUR.raised};
  }
`;
