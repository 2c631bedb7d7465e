import { type LucideIcon } from 'lucide-react';
import { styled } from 'styled-components';

const Spoken = styled.span`
  @container frames (max-width: 640px) {
    [data-sets] & {
      position: absolute;
      width: 1px;
      height: 1px;
      overflow: hidden;
      clip-path: inset(50%);
    }
  }
`;

const Sign = styled.span`
  display: none;
  @container frames (max-width: 640px) {
    [data-sets] & {
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
      <Spoken>{children}</Spoken>
    </>
  );
}
