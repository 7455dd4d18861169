import ButtonGroup from 'react-bootstrap/ButtonGroup';
import Form from 'react-bootstrap/Form';
import ToggleButton from 'react-bootstrap/ToggleButton';
import { CHOICES } from './trial';
import type { Choice } from './trial';

/** Which fields of the targets are shown: some of hundreds. */
export function MapFilter(props: {
  choice: Choice;
  text: string;
  choose: (choice: Choice) => void;
  search: (text: string) => void;
}) {
  return (
    <div className="filter">
      <ButtonGroup size="sm" aria-label="Which fields are shown">
        {CHOICES.map((choice) => (
          <ToggleButton
            key={choice}
            id={`fields-${choice}`}
            type="radio"
            name="fields"
            variant="outline-secondary"
            value={choice}
            checked={props.choice === choice}
            onChange={() => props.choose(choice)}
          >
            {choice}
          </ToggleButton>
        ))}
      </ButtonGroup>
      <Form.Control
        size="sm"
        type="search"
        aria-label="Search fields"
        placeholder="Search fields and formulas"
        value={props.text}
        onChange={(event) => props.search(event.target.value)}
      />
    </div>
  );
}
