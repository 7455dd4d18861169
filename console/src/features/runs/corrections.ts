/** The numbers of rejects. */
export function ids(rejects: { id: number }[]): number[] {
  return rejects.map((reject) => reject.id);
}

/** The cells that are to hold something else than they do. */
export function corrected(before: Record<string, string>, now: Record<string, string>): Record<string, string> {
  return Object.fromEntries(Object.entries(now).filter(([column, text]) => text !== (before[column] ?? '')));
}
