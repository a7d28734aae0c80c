import { Form } from 'react-bootstrap';
import { conditionWords } from '../../../../core/messages/index.ts';
import { isKind, type LinkedTest } from '../../../../core/rules/index.ts';
import type { Field, Source } from '../../../../core/values/index.ts';
import { phrasingOf, Said, useViewer } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';
import { firstTest, TestEditor } from './test-editor.tsx';

/** Finds a source by its id. */
export type SourceOf = (id: string) => Source | undefined;

/** A first test of what a link leads to: of the first choice there, else of the first field. */
export function firstLinked(link: Field, sourceOf: SourceOf): LinkedTest {
  const fields = sourceOf(link.to ?? '')?.fields ?? [];
  const field = fields.find((one) => one.type === 'choice') ?? fields[0];
  return { through: link.id, holds: field ? firstTest(field) : { all: [] } };
}

/** What linked items are like: of several whether some or every one, which field of theirs, and how it stands. */
export function LinkedEditor({
  test,
  field,
  onChange,
}: {
  test: LinkedTest;
  field: Field;
  onChange: (test: LinkedTest) => void;
}) {
  const viewer = useViewer();
  const target = viewer.source(field.to ?? '');
  if (!target) return <p className="small fault">{t('linkLeadsNowhere')}</p>;
  const { holds } = test;
  const several = field.type === 'links' && (
    <Form.Select
      aria-label={t('someOrEvery')}
      value={test.every ? 'every' : 'some'}
      onChange={({ target: { value } }) => onChange({ ...test, every: value === 'every' })}
    >
      <option value="some">{t('someOfThem')}</option>
      <option value="every">{t('everyOneOfThem')}</option>
    </Form.Select>
  );
  if (!isKind(holds, 'test'))
    return (
      <>
        {several}
        <p className="small">
          <Said words={conditionWords(holds, phrasingOf(target, viewer))} />
        </p>
      </>
    );
  const own = target.fields.find((one) => one.id === holds.field);
  return (
    <>
      {several}
      <Form.Select
        aria-label={t('itsField')}
        value={holds.field}
        onChange={({ target: { value } }) => {
          const next = target.fields.find((one) => one.id === value);
          if (next) onChange({ ...test, holds: firstTest(next) });
        }}
      >
        {target.fields.map((one) => (
          <option key={one.id} value={one.id}>
            {t('fieldOf', { field: one.name, source: target.name })}
          </option>
        ))}
      </Form.Select>
      {own && (
        <TestEditor
          test={holds}
          field={own}
          source={target}
          tense="is"
          onChange={(next) => onChange({ ...test, holds: next })}
        />
      )}
    </>
  );
}
