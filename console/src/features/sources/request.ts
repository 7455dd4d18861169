import type { FileView } from '../../api/client';

/** What the page looks at, as it stands in its address. */
export interface Chosen {
  connection: string | null;
  file: string | null;
  records: string | null;
  hash: string | null;
  as: string | null;
  options: Record<string, string>;
}

const OPTION = 'o.';

export function chosen(address: URLSearchParams): Chosen {
  const options: Record<string, string> = {};
  address.forEach((value, name) => {
    if (name.startsWith(OPTION)) {
      options[name.slice(OPTION.length)] = value;
    }
  });
  return {
    connection: address.get('connection'),
    file: address.get('file'),
    records: address.get('records'),
    hash: address.get('hash'),
    as: address.get('as'),
    options,
  };
}

/** Whether something is named that can be looked at. */
export function isWhole(source: Chosen): boolean {
  return source.hash !== null || (source.connection !== null && (source.file !== null || source.records !== null));
}

/** The body of a request; {@code rows} is how many rows are wanted. */
export function request(source: Chosen, rows: number) {
  return {
    ...(source.hash ? { file: source.hash } : {}),
    ...(source.file ? { fileName: source.file } : {}),
    ...(source.connection ? { connection: source.connection } : {}),
    ...(source.records ? { records: source.records } : {}),
    ...(source.as ? { as: source.as } : {}),
    options: source.options,
    rows,
  };
}

/** The address with one option changed; an empty value takes it back to what is detected. */
export function withOption(address: URLSearchParams, option: string, value: string): URLSearchParams {
  const next = new URLSearchParams(address);
  const name = option === 'as' ? 'as' : OPTION + option;
  if (option === 'as') {
    [...next.keys()].filter((key) => key.startsWith(OPTION)).forEach((key) => next.delete(key));
  }
  if (value === '') {
    next.delete(name);
  } else {
    next.set(name, value);
  }
  return next;
}

/** The address of an uploaded file. */
export function ofUpload(file: FileView): URLSearchParams {
  return new URLSearchParams({ hash: file.hash, file: file.name });
}
