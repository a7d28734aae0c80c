import { Button } from 'react-bootstrap';
import { useFieldArray } from 'react-hook-form';
import { Link, useNavigate, useParams } from 'react-router';
import { LIMITS } from '../../../contract/limits.ts';
import type { DirectoryPage } from '../../../contract/wire/index.ts';
import { sourcePath } from '../../../core/messages/index.ts';
import { Ends, Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import {
  Empty,
  FileDrop,
  ProblemNote,
  Radios,
  sourceKind,
  TABLE_FILES,
  useDraftKey,
  useNotice,
  useViewer,
} from '../../parts/index.ts';
import { useDefineSource, useGuessFields } from '../../queries/index.ts';
import { bytes, phrases } from '../../words/index.ts';
import { t } from '../../words/defining.ts';
import { definedShape, type DefinedTyped, EMPTY_FIELD, typedOf } from './defined-shape.ts';
import { FieldRow } from './field-row.tsx';

type Listed = DirectoryPage['sources'][number];

/** A steward defines a source, or gives one that there is other fields. */
export function DefineSourcePage() {
  const { source: id } = useParams();
  const { me, directory, person } = useViewer();
  const known = directory.sources.find((one) => one.id === id);
  const isFixed = known !== undefined && (known.sheetOf !== undefined || !['list', 'records'].includes(known.kind));
  if (me.role !== 'steward' || (id !== undefined && !known) || isFixed)
    return (
      <main className="page">
        <Empty title={me.role === 'steward' ? t('notThisOne') : t('forStewards')}>
          <p>{t('askThem', { who: phrases().or(directory.stewards.map(person)) })}</p>
          <Link to="/sources">{t('allSources')}</Link>
        </Empty>
      </main>
    );
  return <Define key={id ?? 'new'} known={known ?? null} />;
}

function Define({ known }: { known: Listed | null }) {
  const notice = useNotice();
  const navigate = useNavigate();
  const define = useDefineSource(known?.id ?? null);
  const sending = useSending({
    shape: definedShape,
    start: typedOf(known),
    draft: useDraftKey(`source.${known?.id ?? 'new'}`),
    fieldOf: (path) => (path === 'fields' ? null : path.replace(/(\.options)\..*$/, '$1')),
    send: (read) => define.mutateAsync(read),
    onSent: (id) => {
      notice({ words: known ? t('kept') : t('isThere') });
      void navigate(sourcePath(id));
    },
  });
  const { fields, append, remove, replace } = useFieldArray({ control: sending.form.control, name: 'fields' });
  const title = Number(sending.form.watch('title'));
  const takeOff = (at: number) => {
    remove(at);
    if (at < title || title >= fields.length - 1) sending.form.setValue('title', Math.max(0, title - 1));
  };
  return (
    <main className="page define-source">
      <p className="crumbs">
        <Link to="/sources">{t('allSources')}</Link>
        {known && (
          <>
            {' '}
            / <Link to={sourcePath(known.id)}>{known.name}</Link>
          </>
        )}
      </p>
      <h1>{known ? t('fieldsOf', { name: known.name }) : t('newSource')}</h1>
      {!known && (
        <FromFile
          onGuessed={(guessed) => {
            replace(guessed.fields);
            sending.form.setValue('title', guessed.title);
          }}
        />
      )}
      <SendForm sending={sending}>
        <TextField sending={sending} name="name" label={t('name')} />
        <TextField sending={sending} name="about" label={t('about')} />
        {!known && (
          <fieldset className="choices">
            <legend className="form-label">{t('whatSort')}</legend>
            <Radios
              name="kind"
              options={(['list', 'records'] as const).map((one) => [one, sourceKind(one)] as const)}
              chosen={sending.form.watch('kind')}
              onChange={(kind) => sending.form.setValue('kind', kind)}
            />
          </fieldset>
        )}
        <h2 className="mt-4">{t('fields')}</h2>
        <p className="quiet small">{t('oneNamesIt')}</p>
        <ol className="plain-list field-rows">
          {fields.map((field, at) => (
            <FieldRow
              key={field.id}
              sending={sending}
              at={at}
              isTitle={at === title}
              onTitle={() => sending.form.setValue('title', at, { shouldDirty: true })}
              onRemove={fields.length > 1 ? () => takeOff(at) : null}
            />
          ))}
        </ol>
        {fields.length < LIMITS.sourceFields && (
          <Button variant="outline-primary" size="sm" onClick={() => append(EMPTY_FIELD)}>
            {t('addAField')}
          </Button>
        )}
        <Refused sending={sending} />
        <Ends
          sending={sending}
          words={known ? t('keepIt') : t('makeIt')}
          leave={t('leaveIt')}
          onLeave={() => void navigate(known ? sourcePath(known.id) : '/sources')}
        />
      </SendForm>
    </main>
  );
}

/** Fields as the columns of a file seem to be, to be corrected before anything is made. */
function FromFile({ onGuessed }: { onGuessed: (guessed: Pick<DefinedTyped, 'fields' | 'title'>) => void }) {
  const guess = useGuessFields();
  const take = (file: File | undefined) =>
    file &&
    guess.mutate(file, {
      onSuccess: ({ fields, title }) =>
        onGuessed({
          fields: fields.map((field) => ({
            ...field,
            known: null,
            to: '',
            kept: [],
            options: field.options.map(({ name }) => name).join('; '),
          })),
          title,
        }),
    });
  return (
    <FileDrop
      label={t('aFile')}
      words={t('orDrop')}
      choose={t('chooseOne')}
      hint={
        guess.data
          ? t('guessed', { columns: guess.data.fields.length, rows: guess.data.rows })
          : t('whatFiles', { most: bytes(LIMITS.tableBytes) })
      }
      accept={TABLE_FILES}
      onFiles={([file]) => take(file)}
    >
      {guess.isPending && <p role="status">{t('reading')}</p>}
      {guess.error && <ProblemNote error={guess.error} />}
    </FileDrop>
  );
}
