import { number } from '../lib/format';
import type { Part } from '../lib/part';

interface SplitBarProps {
  parts: Part[];
  big?: boolean;
  legend?: boolean;
  /** Whether the counts are what is planned, not what was done: the bar is paler then. */
  planned?: boolean;
}

/** One bar, split by counts. Colour is never the only sign: the legend names each part, and one kind carries a hatch. */
export function SplitBar({ parts, big = false, legend = false, planned = false }: SplitBarProps) {
  const present = parts.filter((part) => part.count > 0);
  const total = present.reduce((sum, part) => sum + part.count, 0);
  const words = present.map((part) => `${number(part.count)} ${part.label ?? part.name}`).join(', ') || 'no rows';
  return (
    <div>
      <div
        className={`bar ${big ? 'bar-big' : ''} ${planned ? 'bar-planned' : ''}`}
        role="img"
        aria-label={planned ? `planned: ${words}` : words}
      >
        {present.map((part) => (
          <i
            key={part.name}
            className={`part-${part.name}`}
            style={{ width: `${(100 * part.count) / total}%` }}
            title={`${number(part.count)} ${part.label ?? part.name}`}
          />
        ))}
      </div>
      {legend && (
        <div className="legend">
          {present.map((part) => (
            <span key={part.name}>
              <i className={`part-${part.name}`} />
              {number(part.count)} {part.label ?? part.name}
            </span>
          ))}
          {present.length === 0 && <span className="soft">no rows</span>}
        </div>
      )}
    </div>
  );
}
