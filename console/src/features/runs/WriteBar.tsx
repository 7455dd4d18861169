import type { WriteCountView } from '../../api/client';
import { sum, writingParts } from '../../lib/balance';
import { number } from '../../lib/format';
import { SplitBar } from '../../ui/SplitBar';

/** What one write did with the rows that it took. */
export function WriteBar({ write }: { write: WriteCountView }) {
  const parts = writingParts(write);
  return (
    <div className="mb-2">
      <b>{write.write}</b>{' '}
      <span className="soft">
        {number(write.taken)} taken = {sum(parts, number)}
      </span>
      <div className="mt-2">
        <SplitBar big legend parts={parts} />
      </div>
    </div>
  );
}
