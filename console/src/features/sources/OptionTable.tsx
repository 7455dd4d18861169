import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import { useSearchParams } from 'react-router';
import type { OptionView, SourceView } from '../../api/client';
import { Sure } from './Sure';
import { withOption } from './request';

/** The format and its options in force. A value that is changed is stated from then on; emptied, it is detected again. */
export function OptionTable({ view }: { view: SourceView }) {
  if (view.files.length === 0) {
    return null;
  }
  const format: OptionView = {
    option: 'as',
    value: view.format,
    confidence: view.formatConfidence,
    evidence: view.formatEvidence,
    settable: true,
  };
  return (
    <table className="sheet sheet-narrow">
      <thead>
        <tr>
          <th scope="col">Option</th>
          <th scope="col">Value</th>
          <th scope="col">Sure</th>
          <th scope="col">Because</th>
        </tr>
      </thead>
      <tbody>
        {[format, ...view.options].map((option) => (
          <tr key={option.option}>
            <th scope="row" className="mono">
              {option.option}
            </th>
            <td>
              {option.settable ? (
                <Value key={option.value} option={option} />
              ) : (
                <span className="mono">{option.value}</span>
              )}
            </td>
            <td>
              <Sure confidence={option.confidence} />
            </td>
            <td>{option.evidence}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Value({ option }: { option: OptionView }) {
  const [address, setAddress] = useSearchParams();
  const [text, setText] = useState(option.value);
  const state = () => {
    if (text !== option.value) {
      setAddress(withOption(address, option.option, text));
    }
  };
  return (
    <Form.Control
      size="sm"
      className="mono value"
      aria-label={option.option}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={state}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          state();
        }
        if (event.key === 'Escape') {
          setText(option.value);
        }
      }}
    />
  );
}
