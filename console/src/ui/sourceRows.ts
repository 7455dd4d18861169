/** What the console shows of a reject. */
export interface Reject {
  id: number;
  place: string;
  row: number;
  key: string;
  header: string[];
  raw: (string | null)[];
  byTarget?: boolean;
  problems: { code: string; sentence: string; remedy: string; field?: string; value?: string; at?: string }[];
}

/** Rejects that follow each other and stand for the same row of the source: steps make several rows of one. */
export function bySourceRow<R extends Reject>(rejects: R[]): R[][] {
  const rows: R[][] = [];
  for (const reject of rejects) {
    const last = rows[rows.length - 1];
    // a record that the source no longer has stands for itself
    if (reject.row > 0 && last?.[0]?.row === reject.row) {
      last.push(reject);
    } else {
      rows.push([reject]);
    }
  }
  return rows;
}

/** All that is wrong with what was made of a row, each thing once. */
export function reasons(made: Reject[]): Reject['problems'] {
  const all = made.flatMap((reject) => reject.problems);
  return all.filter((problem, index) => all.findIndex((other) => isSame(problem, other)) === index);
}

function isSame(one: Reject['problems'][number], other: Reject['problems'][number]): boolean {
  return one.field === other.field && one.sentence === other.sentence;
}

/** By the name of the column, or by a value that a step changed in nothing but its case. */
export function isAtFault(made: Reject[], index: number): boolean {
  const column = made[0]?.header[index] ?? '';
  const cell = made[0]?.raw[index]?.toLowerCase();
  return reasons(made).some(
    (problem) =>
      problem.field?.split(' + ').includes(column) || (cell !== undefined && problem.value?.toLowerCase() === cell),
  );
}
