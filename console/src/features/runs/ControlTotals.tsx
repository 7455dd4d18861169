import type { ControlTotalsView } from '../../api/client';
import { count, decimal, number } from '../../lib/format';

/** The figures that prove a run: each is added up by what became of its rows, and compared where the job says so. */
export function ControlTotals({ totals, planned }: { totals?: ControlTotalsView; planned: boolean }) {
  if (!totals) {
    return null;
  }
  return (
    <>
      {totals.sums.length > 0 && <Sums sums={totals.sums} planned={planned} />}
      {totals.records.map((records) => (
        <p key={records.target} className={records.differs ? 'bad mt-2 mb-0' : 'soft mt-2 mb-0'}>
          {records.target}: {number(records.before)} records before + {number(records.inserted)} inserted −{' '}
          {number(records.deleted)} deleted; {number(records.after)} after.
          {records.differs && ' That differs.'}
        </p>
      ))}
    </>
  );
}

type Sum = ControlTotalsView['sums'][number];

interface Figure {
  name: string;
  of: (sum: Sum) => string | undefined;
  /** Whether it is left out where it is nothing in all sums. */
  rare: boolean;
}

function figures(planned: boolean): Figure[] {
  return [
    { name: 'read', of: (sum) => sum.read, rare: false },
    { name: planned ? 'to write' : 'written', of: (sum) => sum.written, rare: false },
    { name: 'skipped', of: (sum) => sum.skipped, rare: true },
    { name: 'rejected', of: (sum) => sum.rejected, rare: true },
    { name: 'unreached', of: (sum) => sum.unreached, rare: true },
    { name: 'expected', of: (sum) => sum.expected, rare: true },
    { name: 'in the target', of: (sum) => sum.target, rare: true },
  ];
}

function Sums({ sums, planned }: { sums: Sum[]; planned: boolean }) {
  const shown = figures(planned).filter(
    (figure) => !figure.rare || sums.some((sum) => Number(figure.of(sum) ?? 0) !== 0),
  );
  return (
    <table className="sheet mt-2" aria-label="Control totals">
      <thead>
        <tr>
          <th scope="col">sum of</th>
          {shown.map((figure) => (
            <th key={figure.name} scope="col" className="number">
              {figure.name}
            </th>
          ))}
          <th scope="col" />
        </tr>
      </thead>
      <tbody>
        {sums.map((sum) => (
          <tr key={sum.name}>
            <td className="mono">{sum.name}</td>
            {shown.map((figure) => (
              <td key={figure.name} className="number">
                {decimal(figure.of(sum) ?? '')}
              </td>
            ))}
            <td className={sum.differs ? 'bad' : 'soft'}>
              {[sum.differs && 'differs', sum.unread > 0 && `unreadable in ${count(sum.unread, 'row')}`]
                .filter(Boolean)
                .join(', ')}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
