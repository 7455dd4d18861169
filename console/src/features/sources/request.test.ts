import { expect, test } from 'vitest';
import { chosen, isWhole, ofUpload, request, withOption } from './request';

test('an address names what is looked at and the options that are stated', () => {
  const source = chosen(new URLSearchParams('connection=inbox&file=huts.csv&o.header-row=3&part=profile'));
  expect(isWhole(source)).toBe(true);
  expect(request(source, 20)).toEqual({
    fileName: 'huts.csv',
    connection: 'inbox',
    options: { 'header-row': '3' },
    rows: 20,
  });
});

test('a connection alone is nothing to look at yet', () => {
  expect(isWhole(chosen(new URLSearchParams('connection=inbox')))).toBe(false);
  expect(isWhole(chosen(new URLSearchParams('connection=register&records=hut')))).toBe(true);
  expect(isWhole(chosen(ofUpload({ hash: 'ab', name: 'x.csv', size: 1 })))).toBe(true);
});

test('an option is stated, taken back, and dropped when the format changes', () => {
  const stated = withOption(new URLSearchParams('file=a'), 'delimiter', ';');
  expect(stated.get('o.delimiter')).toBe(';');
  expect(withOption(stated, 'delimiter', '').has('o.delimiter')).toBe(false);
  const other = withOption(stated, 'as', 'fixed');
  expect(other.get('as')).toBe('fixed');
  expect(other.has('o.delimiter')).toBe(false);
});
