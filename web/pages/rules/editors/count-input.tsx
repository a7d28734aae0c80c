import { Form } from 'react-bootstrap';

interface CountProps {
  label: string;
  value: number;
  /** Stand before and after it in the sentence. */
  before?: string;
  after: string;
  min?: number;
  max: number;
  onChange: (count: number) => void;
}

/** How many times, as part of a sentence; never fewer than the least that means something. */
export const CountInput = ({ label, value, before, after, min = 1, max, onChange }: CountProps) => (
  <div className="row-of">
    {before && <span className="beside">{before}</span>}
    <Form.Control
      type="number"
      min={min}
      max={max}
      aria-label={label}
      value={value}
      onChange={(event) => onChange(Math.max(min, Math.round(Number(event.target.value)) || min))}
    />
    <span className="beside">{after}</span>
  </div>
);
