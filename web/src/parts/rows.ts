/** Which rows of a long list are worth drawing: those in sight, and some around them. */
export function inSight(scrollTop: number, height: number, rowHeight: number, rows: number, around = 12) {
  const from = Math.max(0, Math.floor(scrollTop / rowHeight) - around);
  const to = Math.min(rows, Math.ceil((scrollTop + height) / rowHeight) + around);
  return { from, to, above: from * rowHeight, below: Math.max(0, rows - to) * rowHeight };
}

/** How far to scroll so that a row stands below the head and above the edge. */
export function scrollFor(
  index: number,
  scrollTop: number,
  height: number,
  rowHeight: number,
  head: number
): number {
  const top = index * rowHeight;
  if (top < scrollTop) return top;
  if (top + rowHeight + head > scrollTop + height) return top + rowHeight + head - height;
  return scrollTop;
}
