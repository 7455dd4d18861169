import type { FieldView } from '../api/client';

/** What a target demands of a field, as marks. */
export function FieldMarks({ field }: { field: FieldView }) {
  return (
    <>
      {field.uniqueIn.length > 0 && (
        <span className="mark mark-key">
          {field.primaryKey ? 'key, own id' : 'key'}
          {field.uniqueIn.some((fields) => fields !== field.name) && ` (unique: ${field.uniqueIn.join('; ')})`}
        </span>
      )}
      {field.required && <span className="mark mark-required">required</span>}
      {field.generated && <span className="mark">filled by itself</span>}
      {field.readOnly && <span className="mark">read only: {field.readOnlyReason}</span>}
      {field.fixed && <span className="mark">fixed once the record is there</span>}
      {field.sensitive && (
        <span className="mark" title="Its values are not shown in ledger and rejects">
          sensitive
        </span>
      )}
      {field.allowed.length > 0 && <span className="mark">one of {field.allowed.join(', ')}</span>}
    </>
  );
}
