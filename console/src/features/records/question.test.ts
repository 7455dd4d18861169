import { describe, expect, it } from 'vitest';
import type { RecordsView } from '../../api/client';
import { address, asked, changes, keyOf, query } from './question';

const field = (name: string, generated = false) => ({ name, generated });

describe('a question about records', () => {
  it('stands in the address and is asked of the service', () => {
    const question = { where: " beds >= 20 and name = 'Ä & B' ", sort: 'beds', descending: true };
    const stored = asked(new URLSearchParams(address(question).toString()));
    expect(stored).toEqual({ ...question, where: "beds >= 20 and name = 'Ä & B'" });
    expect(query(stored).get('sort')).toBe('beds desc');
    expect(query(stored).get('where')).toBe("beds >= 20 and name = 'Ä & B'");
  });

  it('says nothing where nothing is asked', () => {
    expect(address({ where: ' ', sort: '', descending: true }).toString()).toBe('');
    expect(query(asked(new URLSearchParams())).toString()).toBe('limit=100');
  });

  it('knows records by a key that people gave them', () => {
    const hut = { fields: [field('id', true), field('hut_code')], uniqueKeys: [['id'], ['hut_code']] };
    expect(keyOf(hut as unknown as RecordsView)).toEqual(['hut_code']);
    expect(keyOf({ ...hut, uniqueKeys: [['id']] } as unknown as RecordsView)).toEqual(['id']);
    expect(keyOf({ ...hut, uniqueKeys: [] } as unknown as RecordsView)).toEqual([]);
  });

  it('sends only what was changed, and what was cleared', () => {
    expect(changes({ beds: '8', phone: '1' }, { beds: '8', phone: '', name: 'Larch', note: '' })).toEqual({
      phone: '',
      name: 'Larch',
    });
  });
});
