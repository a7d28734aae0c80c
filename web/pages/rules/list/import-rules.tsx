import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { ruleSchema, schemaFaults } from '../../../../contract/documents/index.ts';
import { faultWords } from '../../../../contract/words/faults.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { ProblemNote, useNotice } from '../../../parts/index.ts';
import { useCreateRule } from '../../../queries/index.ts';
import { t } from '../../../words/rules.ts';
import { locale } from '../../../words/index.ts';

function listIn(found: unknown): unknown[] {
  if (Array.isArray(found)) return found;
  const rules = (found as { rules?: unknown } | null)?.rules;
  return Array.isArray(rules) ? rules : [found];
}

/** The rules of a file: one document, a list of them, or a document with a list called `rules`. */
export function rulesIn(text: string): { rules: Rule[]; faults: string[] } {
  let found: unknown;
  try {
    found = JSON.parse(text);
  } catch (error) {
    return {
      rules: [],
      faults: [t('thisIsNoJSON', { problem: error instanceof Error ? error.message : String(error) })],
    };
  }
  const list = listIn(found);
  const read = list.map((one) => ruleSchema.safeParse(one));
  const faults = read.flatMap((one, at) =>
    one.success
      ? []
      : schemaFaults(one.error, ruleSchema).map((fault) =>
          t('rule', { at: at + 1, path: fault.path || t('theWhole'), fault: faultWords(fault, locale()) }),
        ),
  );
  return { rules: read.flatMap((one) => (one.success ? [one.data] : [])), faults };
}

/** Takes rules from a file of JSON; each becomes a draft, none is live by that. */
export function ImportRules({ onDone }: { onDone: () => void }) {
  const create = useCreateRule();
  const notice = useNotice();
  const [faults, setFaults] = useState<string[]>([]);
  const take = async (file: File) => {
    const { rules, faults: wrong } = rulesIn(await file.text());
    setFaults(wrong);
    if (wrong.length > 0) return;
    for (const rule of rules) await create.mutateAsync(rule);
    notice({ words: t('rulesImportedAsDrafts', { rules: rules.length }) });
    onDone();
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
            if (file) void take(file).catch(() => undefined);
          }}
        />
        <Button variant="quiet" onClick={onDone}>
          {t('close')}
        </Button>
      </div>
      {faults.length > 0 && (
        <div className="problem mt-2" role="alert">
          <strong>{t('nothingWasImported')}</strong>
          <ul className="plain-list">
            {faults.slice(0, 12).map((fault) => (
              <li key={fault}>{fault}</li>
            ))}
          </ul>
        </div>
      )}
      {create.error && (
        <div className="mt-2">
          <ProblemNote error={create.error} />
        </div>
      )}
    </section>
  );
}
