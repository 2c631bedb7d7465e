import { type LucideIcon } from 'lucide-react';
import { css, styled } from 'styled-components';

const heard = css`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
`;

/** Words that stay for those who listen, and leave the heading where the tray is too narrow for them beside its sets and buttons. */
export const Detail = styled.span`
  @container frames (max-width: 900px) {
    [data-crowded] & {
      ${heard}
    }
  }
`;

const Words = styled.span`
  @container frames (max-width: 640px) {
    [data-crowded] & {
      ${heard}
    }
  }
`;

const Sign = styled.span`
  display: none;
  @container frames (max-width: 640px) {
    [data-crowded] & {
      display: contents;
    }
  }
`;

/** What a button of the tray's heading says: in words; as a sign, with its name kept, where the tray is narrow and sets stand beside it. */
export function TrayAction({ icon: Icon, children }: { icon: LucideIcon; children: string }) {
  return (
    <>
      <Sign>
        <Icon aria-hidden />
      </Sign>
      <Words>{children}</Words>
    </>
  );
}
