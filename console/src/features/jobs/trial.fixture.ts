import type { FieldView, MapLine } from '../../api/client';

/** A line of a map, of a field that demands nothing unless said. */
export function line(name: string, more: Partial<FieldView & MapLine> = {}): MapLine {
  const { formula, rule = 'always', key = false, ...marks } = more;
  const field: FieldView = {
    ...{ name, kind: 'text', type: 'text', required: false, readOnly: false, readOnlyReason: '', generated: false },
    ...{ fixed: false, primaryKey: false, uniqueIn: [], allowed: [], sensitive: false, label: '', help: '' },
    ...marks,
  };
  return { field, formula, rule, key };
}
