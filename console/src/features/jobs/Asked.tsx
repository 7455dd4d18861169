import Form from 'react-bootstrap/Form';

/** What a run is for, and which rows it is about. */
export interface Asked {
  mode: 'write' | 'dry-run' | 'rehearse' | 'hold' | 'first';
  first: string;
  rows: string;
  where: string;
  /** Takes the place of what the job reads. */
  file?: File;
}

export const ASKED: Asked = { mode: 'write', first: '5', rows: '', where: '' };

const MODES: { mode: Asked['mode']; words: string; button: string }[] = [
  { mode: 'write', words: 'Read, check and write', button: 'Start' },
  { mode: 'dry-run', words: 'Dry run: show what would change, write nothing', button: 'Start the dry run' },
  {
    mode: 'rehearse',
    words: 'Rehearse: send it all, hear what the target says, take it back',
    button: 'Start the rehearsal',
  },
  { mode: 'hold', words: 'Hold: show what would change, write it when somebody says so', button: 'Start and hold' },
  { mode: 'first', words: 'First rows: write some, and the rest when somebody says so', button: 'Start with these' },
];

/** What the button says that starts it. */
export function button(asked: Asked): string {
  return MODES.find((one) => one.mode === asked.mode)?.button ?? '';
}

/** Whether the number of first rows is one. */
export function isWhole(asked: Asked): boolean {
  return asked.mode !== 'first' || /^[1-9][0-9]{0,8}$/.test(asked.first.trim());
}

/** The same as the service is asked for it; what is left empty means all rows. */
export function request(asked: Asked) {
  return {
    mode: asked.mode === 'first' ? 'write' : asked.mode,
    ...(asked.mode === 'first' ? { first: Number(asked.first) } : {}),
    ...(asked.rows.trim() ? { rows: asked.rows.trim() } : {}),
    ...(asked.where.trim() ? { where: asked.where.trim() } : {}),
  };
}

interface Fields {
  asked: Asked;
  set: (asked: Asked) => void;
  /** What the file is called that the run has to be given. */
  upload?: string | undefined;
}

export function AskedFields({ asked, set, upload }: Fields) {
  return (
    <>
      <fieldset>
        <legend className="visually-hidden">What the run is for</legend>
        {MODES.map((one) => (
          <Form.Check
            key={one.mode}
            type="radio"
            name="mode"
            id={`mode-${one.mode}`}
            label={one.words}
            checked={asked.mode === one.mode}
            onChange={() => set({ ...asked, mode: one.mode })}
          />
        ))}
        {asked.mode === 'first' && (
          <Text
            id="first"
            label="How many rows first"
            value={asked.first}
            placeholder=""
            set={(first) => set({ ...asked, first })}
          />
        )}
      </fieldset>
      <details className="mt-3" open={upload !== undefined}>
        <summary>A file from this machine</summary>
        <Form.Group controlId="file" className="my-2">
          <Form.Label>{upload ? `The file ${upload} of this run` : 'File in place of what the job reads'}</Form.Label>
          <Form.Control
            type="file"
            size="sm"
            onChange={(event) => set({ ...asked, file: (event.target as HTMLInputElement).files?.[0] })}
          />
        </Form.Group>
        {!upload && <p className="soft mb-0">It is read even if it was loaded before.</p>}
      </details>
      <details className="mt-3">
        <summary>Only some rows</summary>
        <Text
          id="rows"
          label="Rows of the source"
          value={asked.rows}
          placeholder="1-10,15"
          set={(rows) => set({ ...asked, rows })}
        />
        <Text
          id="where"
          label="Rows for which this formula is true"
          value={asked.where}
          placeholder="region = 'Larch Valley'"
          set={(where) => set({ ...asked, where })}
        />
        <p className="soft mb-0">
          The others are skipped, and nothing counts as gone. No file counts as loaded then, and no watermark moves.
        </p>
      </details>
    </>
  );
}

interface TextProps {
  id: string;
  label: string;
  value: string;
  placeholder: string;
  set: (value: string) => void;
}

function Text({ id, label, value, placeholder, set }: TextProps) {
  return (
    <Form.Group controlId={id} className="my-2">
      <Form.Label>{label}</Form.Label>
      <Form.Control
        size="sm"
        className="mono"
        value={value}
        placeholder={placeholder}
        onChange={(event) => set(event.target.value)}
      />
    </Form.Group>
  );
}
