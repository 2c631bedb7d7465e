/** Keys that are typed into a field, or meant for an open dialog, are not the bench's. */
export function isElsewhere({ target }: Pick<KeyboardEvent, 'target'>): boolean {
  const element = target instanceof HTMLElement ? target : undefined;
  return !!element?.closest(
    'input:not([type=range], [type=checkbox], [type=radio]), textarea, [contenteditable], [role=dialog]',
  );
}
