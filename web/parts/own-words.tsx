import { Fragment } from 'react';
import { type Line, linesOf, marked, type Run, withoutMarks } from '../../core/messages/index.ts';

/** Of an address that begins with a mark of its own only the way within Ojo is left; other marks lead nowhere here. */
const hrefOf = (href: string): string | null => {
  const way = href.replace(/^\ue000/, '');
  return /^[\ue000-\ue0ff]/.test(way) ? null : way;
};

function RunShown({ run: { text, isBold, href } }: { run: Run }) {
  const way = href === null ? null : hrefOf(href);
  const plain = withoutMarks(text);
  const words = isBold ? <strong>{plain}</strong> : plain;
  return way === null ? words : <a href={way}>{words}</a>;
}

/** Words have no identity but their place. */
const LineShown = ({ line }: { line: Line }) =>
  line.runs.map((run, at) => <RunShown key={`${at} ${run.text}`} run={run} />);

/** One line as it was written, with its links: what to do now. */
export const MarkedLine = ({ text }: { text: string }) =>
  linesOf(marked(text)).map((line, at) => <LineShown key={`${at} ${line.runs.length}`} line={line} />);

/** A rule's own words, with what stands out in them, lists and links. */
export function OwnWords({ text }: { text: string }) {
  const groups: Line[][] = [];
  for (const line of linesOf(text.trim())) {
    const last = groups.at(-1);
    const isEmpty = line.kind === 'line' && line.runs.length === 0;
    if (isEmpty) groups.push([]);
    else if (last?.[0]?.kind === line.kind) last.push(line);
    else groups.push([line]);
  }
  return groups
    .filter((group) => group.length > 0)
    .map((group, at) => {
      const key = `${at} ${group.length}`;
      const [first] = group;
      if (first?.kind === 'line')
        return (
          <p key={key} className="wrap-anywhere">
            {group.map((line, index) => (
              <Fragment key={`${index} ${line.runs.length}`}>
                {index > 0 && <br />}
                <LineShown line={line} />
              </Fragment>
            ))}
          </p>
        );
      const items = group.map((line, index) => (
        <li key={`${index} ${line.runs.length}`}>
          <LineShown line={line} />
        </li>
      ));
      return first?.kind === 'item' ? <ul key={key}>{items}</ul> : <ol key={key}>{items}</ol>;
    });
}
