import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { FaultAt } from '../../../../contract/problems.ts';
import { faultWords } from '../../../../contract/words/faults.ts';
import { PARTS, partName, ProblemNote, type RulePart, useNotice } from '../../../parts/index.ts';
import { problemOf, useImportRules, useRuleActs } from '../../../queries/index.ts';
import { t } from '../../../words/rules.ts';
import { locale } from '../../../words/index.ts';

function listIn(found: unknown): unknown[] {
  if (Array.isArray(found)) return found;
  const rules = (found as { rules?: unknown } | null)?.rules;
  return Array.isArray(rules) ? rules : [found];
}

/** The rules of a file: one document, a list of them, or a document with a list called `rules`; or why it is none. */
export function rulesIn(text: string): { documents: Record<string, unknown>[] } | { fault: string } {
  let found: unknown;
  try {
    found = JSON.parse(text);
  } catch (error) {
    return { fault: t('thisIsNoJSON', { problem: error instanceof Error ? error.message : String(error) }) };
  }
  const documents = listIn(found).filter(
    (one): one is Record<string, unknown> => typeof one === 'object' && one !== null && !Array.isArray(one),
  );
  return documents.length > 0 && documents.length === listIn(found).length
    ? { documents }
    : { fault: t('thereIsNoRuleInIt') };
}

/** A fault of one document among several, by the rule's name and the part that it is in. */
export function faultOfMany({ path, ...fault }: FaultAt, documents: readonly Record<string, unknown>[]): string {
  const [place = '', part = '', ...below] = path.split('.');
  const name = documents[Number(place)]?.name;
  const isPart = (PARTS as readonly string[]).includes(part);
  return t(typeof name === 'string' && name.trim() !== '' ? 'namedRule' : 'nthRule', {
    at: Number(place) + 1,
    name: String(name),
    path: [isPart ? partName(part as RulePart) : part, ...below].filter(Boolean).join(' › ') || t('theWhole'),
    fault: faultWords({ ...fault }, locale()),
  });
}

/** Takes rules from a file of JSON, all or none; each becomes a draft, none is live by that. */
export function ImportRules({ onDone }: { onDone: () => void }) {
  const bring = useImportRules();
  const acts = useRuleActs();
  const notice = useNotice();
  const [faults, setFaults] = useState<string[]>([]);
  const take = async (file: File) => {
    bring.reset();
    const read = rulesIn(await file.text());
    if ('fault' in read) return setFaults([read.fault]);
    setFaults([]);
    const { documents } = read;
    try {
      const made = await bring.mutateAsync(documents);
      notice({
        words: t('rulesImportedAsDrafts', { rules: made.length }),
        undo: () => acts.mutate({ act: 'delete', ids: made.map(({ id }) => id) }),
      });
      onDone();
    } catch (error) {
      // What belongs to no rule stands as the mutation's own failure.
      setFaults((problemOf(error).faults ?? []).map((fault) => faultOfMany(fault, documents)));
    }
  };
  return (
    <section className="import">
      <label htmlFor="import-file">
        <strong>{t('importRules')}</strong> <span className="quiet">{t('fromAFileOfJSON')}</span>
      </label>
      <div className="acts mt-2">
        <input
          id="import-file"
          type="file"
          accept="application/json,.json"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            // The same file, mended, can be chosen once more.
            event.target.value = '';
            if (file) void take(file);
          }}
        />
        {bring.isPending && <span role="status">{t('readingTheFile')}</span>}
        <Button variant="quiet" onClick={onDone}>
          {t('close')}
        </Button>
      </div>
      {faults.length > 0 && (
        <div className="problem mt-2" role="alert">
          <strong>{t('nothingWasImported')}</strong>
          <ul className="plain-list">
            {faults.map((fault) => (
              <li key={fault}>{fault}</li>
            ))}
          </ul>
        </div>
      )}
      {bring.error && faults.length === 0 && (
        <div className="mt-2">
          <ProblemNote error={bring.error} />
        </div>
      )}
    </section>
  );
}
