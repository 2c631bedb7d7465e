import { type OutFile } from '@/store/deliver';

/** Hands a file to the browser's own download. */
export function download({ name, type, bytes }: OutFile): void {
  const address = URL.createObjectURL(new Blob([bytes.slice()], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}
