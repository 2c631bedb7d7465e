import { styled } from 'styled-components';

export const Message = styled.main`
  padding: 48px;
  max-width: 60ch;
  display: flex;
  flex-direction: column;
  gap: 16px;
`;

/** What stands on the page until the bench does. */
export function Waiting() {
  return <Message aria-busy>Opening the project …</Message>;
}

export const LOST = 'The bench could not be loaded. Reload the page.';

/** What stands there when the bench's code did not come. */
export function Unloaded() {
  return (
    <Message>
      <p role="alert">{LOST}</p>
    </Message>
  );
}
