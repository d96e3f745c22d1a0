interface Placed {
  hash: string;
  parents: readonly string[];
  authoredAt: number;
}

/**
 * Commits with the latest first, and each before those that it came from: git tells times in seconds
 * only, and clocks of several people differ. Among those that are free the latest comes first.
 * @param commits of one repository, each once; parents that are not among them are passed over
 */
export function latestFirst<T extends Placed>(commits: readonly T[]): T[] {
  const byHash = new Map(commits.map((commit) => [commit.hash, commit]));
  const children = new Map<string, number>();
  for (const { parents } of commits)
    for (const parent of new Set(parents))
      if (byHash.has(parent)) children.set(parent, (children.get(parent) ?? 0) + 1);
  const free = commits.filter(({ hash }) => !children.get(hash));
  const ordered: T[] = [];
  while (free.length > 0) {
    const next = free.reduce((a, b) => (b.authoredAt > a.authoredAt ? b : a));
    free.splice(free.indexOf(next), 1);
    ordered.push(next);
    for (const parent of new Set(next.parents)) {
      const left = children.get(parent);
      if (left === undefined) continue;
      children.set(parent, left - 1);
      if (left === 1) free.push(byHash.get(parent)!);
    }
  }
  return ordered;
}
