import type { WriteCountView } from '../../api/client';
import { sum, writingParts } from '../../lib/balance';
import { number } from '../../lib/format';
import { SplitBar } from '../../ui/SplitBar';

/** What one write did with the rows that it took, or plans to do. */
export function WriteBar({ write, planned = false }: { write: WriteCountView; planned?: boolean }) {
  const parts = writingParts(write);
  return (
    <div className="mb-2">
      <b>{write.write}</b>{' '}
      <span className="soft">
        {number(write.taken)} {planned ? 'planned' : 'taken'} = {sum(parts, number)}
      </span>
      <div className="mt-2">
        <SplitBar big legend parts={parts} planned={planned} />
      </div>
    </div>
  );
}
