import { number } from '../../lib/format';

/** A document of thousands of lines would hold the page up; its rest is for the client. */
export const SHOWN_LINES = 1_000;

/** The lines of a document, which links can name. */
export function DocumentText({ text }: { text: string }) {
  const lines = text.trimEnd().split('\n');
  const more = lines.length - SHOWN_LINES;
  return (
    <>
      <ol className="document">
        {lines.slice(0, SHOWN_LINES).map((line, index) => (
          <li key={index} id={`line-${index + 1}`}>
            <code>{line}</code>
          </li>
        ))}
      </ol>
      {more > 0 && (
        <p className="soft mt-2">
          And {number(more)} more lines: <code>nachlauf crosswalk show NAME</code> prints all of them.
        </p>
      )}
    </>
  );
}
