import type { FieldView } from '../api/client';

/** What a target demands of a field, as marks. */
export function FieldMarks({ field }: { field: FieldView }) {
  return (
    <>
      {field.uniqueIn.length > 0 && (
        <span className="mark mark-key" title={`unique: ${field.uniqueIn.join('; ')}`}>
          {field.primaryKey ? 'key, own id' : 'key'}
        </span>
      )}
      {field.required && <span className="mark mark-required">required</span>}
      {field.generated && <span className="mark">filled by itself</span>}
      {field.readOnly && (
        <span className="mark" title={field.readOnlyReason}>
          read only
        </span>
      )}
      {field.sensitive && (
        <span className="mark" title="Its values are not shown in ledger and rejects">
          sensitive
        </span>
      )}
      {field.allowed.length > 0 && <span className="mark">one of {field.allowed.join(', ')}</span>}
    </>
  );
}
