import type { FaultAt } from '../../contract/problems.ts';
import { faultWords } from '../../contract/words/faults.ts';
import { locale } from '../words/index.ts';

/** What is wrong with a document, a line for each. */
export default function FaultList({ faults }: { faults: readonly FaultAt[] }) {
  return (
    <ul className="plain-list">
      {faults.map((fault) => (
        <li key={`${fault.path} ${fault.code}`}>{faultWords(fault, locale())}</li>
      ))}
    </ul>
  );
}
