import { describe, expect, it } from 'vitest';
import { given, missing } from './parameters';

const parameter = { name: 'season', kind: 'integer', required: true, list: false, allowed: [], question: '' };

describe('parameters of a run', () => {
  it('names what is needed and still empty', () => {
    const optional = { ...parameter, name: 'region', required: false };
    expect(missing([parameter, optional], {})).toEqual(['season']);
    expect(missing([parameter, optional], { season: '  ' })).toEqual(['season']);
    expect(missing([parameter, optional], { season: '2026' })).toEqual([]);
  });

  it('leaves out empty fields, which have their default', () => {
    expect(given({ season: '2026', region: ' ' })).toEqual({ season: '2026' });
  });
});
