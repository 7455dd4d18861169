import { useQuery } from '@tanstack/react-query';
import { api } from '../../api/client';
import type { FieldProfileView, ProfileView, ValueCountView } from '../../api/client';
import { keys } from '../../api/keys';
import { count, number } from '../../lib/format';
import { Findings } from '../../ui/Findings';
import { Loaded } from '../../ui/Loaded';
import { request } from './request';
import type { Chosen } from './request';

const SHOWN = 3;

/** Figures per field over the whole source, and what is worth a look. */
export function Profile({ source }: { source: Chosen }) {
  const profile = useQuery({
    queryKey: keys.profile(source),
    queryFn: () => api.post<ProfileView>('/sources/profile', { source: request(source, 1) }),
    retry: false,
    staleTime: Infinity,
  });
  return (
    <Loaded query={profile} rows={12}>
      {(view) => (
        <>
          <p className="mt-2">
            {count(view.rows, 'row')}
            {view.broken > 0 && `, ${number(view.broken)} of them broken and counted in no field`}.
          </p>
          <Findings findings={view.failures} />
          <WorthALook view={view} />
          <Fields view={view} />
        </>
      )}
    </Loaded>
  );
}

function WorthALook({ view }: { view: ProfileView }) {
  const remarks: { key: string; text: string; title?: string }[] = view.remarks.map((remark) => ({
    key: remark.sentence,
    text: remark.sentence,
  }));
  for (const field of view.fields) {
    if (field.question) {
      remarks.push({ key: `${field.name} question`, text: `${field.name}: ${field.question}` });
    }
    if (field.misfits > 0) {
      const shown = field.examples.map((misfit) => `‘${misfit.value}’ at ${misfit.place}`).join('; ');
      remarks.push({
        key: `${field.name} misfits`,
        text: `${field.name}: ${count(field.misfits, 'value is', 'values are')} no ${field.kind}: ${shown}`,
      });
    }
    for (const group of field.spellings) {
      const spellings = group.map((value) => `‘${value.value}’ (${number(value.count)})`).join(', ');
      remarks.push({ key: `${field.name} ${spellings}`, text: `${field.name} probably means the same: ${spellings}` });
    }
  }
  return remarks.length === 0 ? null : (
    <div className="needs">
      {remarks.map((remark) => (
        <div key={remark.key}>{remark.text}</div>
      ))}
    </div>
  );
}

function Fields({ view }: { view: ProfileView }) {
  return (
    <div className="wide" tabIndex={0} role="region" aria-label="Fields">
      <table className="sheet">
        <thead>
          <tr>
            <th scope="col">Field</th>
            <th scope="col">Is</th>
            <th scope="col" style={{ width: 90 }}>
              Filled
            </th>
            <th scope="col" className="number">
              Blank
            </th>
            <th scope="col" className="number">
              Distinct
            </th>
            <th scope="col">Smallest</th>
            <th scope="col">Largest</th>
            <th scope="col" className="number">
              Length
            </th>
            <th scope="col">Shapes</th>
            <th scope="col">Commonest</th>
          </tr>
        </thead>
        <tbody>
          {view.fields.map((field) => (
            <Field key={field.name} field={field} rows={view.rows - view.broken} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Field({ field, rows }: { field: FieldProfileView; rows: number }) {
  const share = rows === 0 ? 0 : (field.filled / rows) * 100;
  const detail = field.pattern ?? field.locale;
  return (
    <tr>
      <th scope="row" className="mono top">
        {field.name}
      </th>
      <td className="top fixed">
        {field.kind}
        {detail && ` ${detail}`}
      </td>
      <td className="top">
        <div className="bar" title={`${number(field.filled)} of ${number(rows)}`}>
          <i className="part-passed" style={{ width: `${share}%` }} />
        </div>
      </td>
      <td className="number top">{number(field.blank)}</td>
      <td className="number top" title={field.distinctExact ? 'exact' : 'estimated, about 1 % off'}>
        {field.distinctExact ? '' : 'about '}
        {number(field.distinct)}
      </td>
      <td className="cell top">{field.smallest}</td>
      <td className="cell top">{field.largest}</td>
      <td className="number top">
        {field.shortest === field.longest ? field.longest : `${field.shortest} – ${field.longest}`}
      </td>
      <td className="top">
        <Counts counts={field.shapes} mono />
      </td>
      <td className="top">
        <Counts counts={field.commonest} />
      </td>
    </tr>
  );
}

function Counts({ counts, mono = false }: { counts: ValueCountView[]; mono?: boolean }) {
  return (
    <div title={counts.map((one) => `${one.value}  ${number(one.count)}`).join('\n')}>
      {counts.slice(0, SHOWN).map((one) => (
        <div key={one.value} className="count">
          <span className={mono ? 'mono cell' : 'cell'}>{one.value}</span>{' '}
          <span className="soft">{number(one.count)}</span>
        </div>
      ))}
    </div>
  );
}
