import { expect, test } from 'vitest';
import { corrected } from './corrections';

test('only cells that were changed are corrected, and a cell can be emptied', () => {
  expect(corrected({ code: 'H-1', beds: 'many', note: 'x' }, { code: 'H-1', beds: '9', note: '' })).toEqual({
    beds: '9',
    note: '',
  });
});
