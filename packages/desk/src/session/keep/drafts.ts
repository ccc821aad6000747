/** What is typed into fields and not yet part of the piece. Whoever leaves the piece settles it first. */
const drafts = new Set<() => void>();

/** A field holds something half typed; `commit` makes it part of the piece. Returns how to forget it. */
export function holdDraft(commit: () => void): () => void {
  drafts.add(commit);
  return () => {
    drafts.delete(commit);
  };
}

/** Commits all that is half typed. */
export function settleDrafts(): void {
  for (const commit of [...drafts]) commit();
}
