import { Button, Form } from 'react-bootstrap';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { Loaded, Time, useViewer, editedParts, PART_NAMES, partWords } from '../../../parts/index.ts';
import { useCost, useVersions } from '../../../queries/index.ts';

/** The edits beside what is live, part by part and by their count; below them every version there was. */
export function Versions({
  row,
  rule,
  edited,
  why,
  onWhy,
  onBringBack,
}: {
  row: RuleRow;
  rule: Rule;
  edited: string[];
  why: string;
  onWhy: (why: string) => void;
  onBringBack?: (document: Rule) => void;
}) {
  const viewer = useViewer();
  const versions = useVersions(row.id);
  return (
    <section className="versions">
      {row.live && edited.length > 0 && <Compared live={row.live} rule={rule} edited={edited} />}
      {edited.length > 0 && (
        <div className="mt-2">
          <Form.Label htmlFor="why-live">Why, kept with the version</Form.Label>
          <Form.Control
            id="why-live"
            value={why}
            maxLength={500}
            placeholder="The loans office asked for it"
            onChange={(event) => onWhy(event.target.value)}
          />
        </div>
      )}
      <h3 className="mt-3">Versions</h3>
      <Loaded query={versions} what="the versions" rows={2}>
        {(list) => (
          <ul className="plain-list">
            {list.map((one, at) => {
              const before = list[at + 1]?.document;
              const parts = before ? editedParts(one.document, before).map((part) => PART_NAMES[part]) : [];
              return (
                <li key={one.version} className="version">
                  <Time at={one.from} />
                  <span>
                    <strong>{one.version}</strong>
                    {one.until === null && row.state === 'live' && ', live'}{' '}
                    <span className="quiet">
                      by {viewer.person(one.by)}
                      {parts.length > 0 && `: ${parts.join(', ')}`}
                      {before && parts.length === 0 && ': as before'}
                    </span>
                    {one.why && <div>“{one.why}”</div>}
                  </span>
                  {onBringBack && one.version !== row.version && (
                    <Button variant="link" size="sm" onClick={() => onBringBack(one.document)}>
                      Bring it back
                    </Button>
                  )}
                </li>
              );
            })}
          </ul>
        )}
      </Loaded>
    </section>
  );
}

function Compared({ live, rule, edited }: { live: Rule; rule: Rule; edited: string[] }) {
  const viewer = useViewer();
  const [before, after] = [useCost(live, 30, true), useCost(rule, 30, true)];
  return (
    <>
      <h3>Not live yet</h3>
      <table className="compared">
        <thead>
          <tr>
            <th scope="col" />
            <th scope="col">live</th>
            <th scope="col">edited</th>
          </tr>
        </thead>
        <tbody>
          {edited.map((part) => (
            <tr key={part}>
              <th scope="row">{PART_NAMES[part]}</th>
              <td>
                <s>{partWords(live, part, viewer)}</s>
              </td>
              <td>
                <mark>{partWords(rule, part, viewer)}</mark>
              </td>
            </tr>
          ))}
          {before.data && after.data && (
            <tr>
              <th scope="row">in 30 days</th>
              <td>
                {before.data.caught.length} alerts, {before.data.messages.toLocaleString()} messages
              </td>
              <td>
                <strong>
                  {after.data.caught.length} alerts, {after.data.messages.toLocaleString()} messages
                </strong>
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </>
  );
}
