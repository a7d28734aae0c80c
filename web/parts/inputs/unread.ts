/** Controls in which something stands that cannot be read, and that nobody else says is wrong. */
const unread = new Set<HTMLElement>();

/** Says of a control whether what stands in it cannot be read; a control that goes says so no more. */
export function holdUnread(control: HTMLElement, isUnread: boolean): void {
  if (isUnread) unread.add(control);
  else unread.delete(control);
}

/** Goes to the first control within a part of the page that holds what cannot be read; whether there is one. */
export function goToUnread(within: ParentNode = document): boolean {
  const first = [...unread].find((control) => within.contains(control));
  first?.focus();
  return first !== undefined;
}
