import { Button, Form } from 'react-bootstrap';
import type { DoorRow } from '../../../contract/wire/index.ts';
import { DEEDS } from '../../../core/doors/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { Ends, Refused, SelectField, SendForm, type Sending, TextField, useSending } from '../../forms/index.ts';
import { ProblemNote, useDraftKey, useNotice } from '../../parts/index.ts';
import { useAddDoor, useDropDoor, useSaveDoor } from '../../queries/index.ts';
import { t } from '../../words/doors.ts';
import { doorShape, placeOf, type TypedDoor, type TypedMapping, typedOf } from './door-typed.ts';
import { TryDoor } from './try-door.tsx';

/** A key that has just been made, with the name of its door. */
export interface Keyed {
  name: string;
  key: string;
}

interface EditorProps {
  source: Source;
  door: DoorRow | null;
  onDone: () => void;
  onKey: (keyed: Keyed) => void;
}

/** What a door is called, and what becomes of what comes by it; tried on a sample before it is kept. */
export function DoorEditor({ source, door, onDone, onKey }: EditorProps) {
  const notice = useNotice();
  const add = useAddDoor(source.id);
  const save = useSaveDoor(source.id, door?.id ?? '');
  const drop = useDropDoor(source.id, door?.id ?? '');
  const sending: Sending<TypedDoor> = useSending({
    shape: doorShape,
    start: {
      name: door?.name ?? '',
      isOpen: door?.isOpen ?? true,
      mappings: (door?.mappings ?? [null]).map((mapping) => typedOf(source, mapping)),
    },
    draft: useDraftKey(`door.${source.id}.${door?.id ?? 'new'}`),
    send: async (read) => {
      if (door) await save.mutateAsync(read);
      else onKey({ name: read.name, key: (await add.mutateAsync(read)).key });
    },
    onSent: () => {
      if (door) notice({ words: t('isKept') });
      onDone();
    },
    fieldOf: (path) => placeOf(path, sending.form.getValues('mappings')),
  });
  const takeAway = () =>
    drop.mutate(undefined, {
      onSuccess: () => {
        notice({ words: t('isGone', { name: door?.name ?? '' }) });
        onDone();
      },
    });
  const mappings = sending.form.watch('mappings');
  const put = (next: TypedMapping[]) => sending.form.setValue('mappings', next, { shouldDirty: true });
  return (
    <SendForm sending={sending} className="group-editor door-editor">
      <TextField sending={sending} name="name" label={t('name')} hint={t('nameHint')} autoFocus />
      {mappings.map((mapping, at) => (
        // A sort of events has no name before it is typed: its place is all it is known by.
        <fieldset key={`${at}/${mappings.length}`} className="door-mapping">
          <OneSort source={source} sending={sending} at={at} does={mapping.does} />
          {mappings.length > 1 && (
            <Button variant="link" size="sm" onClick={() => put(mappings.filter((_, other) => other !== at))}>
              {t('takeSortAway')}
            </Button>
          )}
        </fieldset>
      ))}
      <Button variant="link" size="sm" onClick={() => put([...mappings, typedOf(source, null)])}>
        {t('anotherSort')}
      </Button>
      <TryDoor source={source} mappings={mappings} />
      <Form.Check
        id="door-open"
        className="mt-3 mb-3"
        label={t('isOpen')}
        checked={sending.form.watch('isOpen')}
        onChange={(event) => sending.form.setValue('isOpen', event.target.checked, { shouldDirty: true })}
      />
      <Refused sending={sending} />
      {drop.error && <ProblemNote error={drop.error} />}
      <Ends sending={sending} words={door ? t('keepIt') : t('makeIt')} leave={t('leaveIt')} onLeave={onDone}>
        {door && (
          <Button variant="link" className="fault" disabled={drop.isPending} onClick={takeAway}>
            {t('takeAway')}
          </Button>
        )}
      </Ends>
    </SendForm>
  );
}

interface SortProps {
  source: Source;
  sending: Sending<TypedDoor>;
  at: number;
  does: TypedMapping['does'];
}

/** Events of one sort: their type, what they do, and where everything stands in them. */
function OneSort({ source, sending, at, does }: SortProps) {
  const place = `mappings.${at}` as const;
  return (
    <>
      <div className="two-fields">
        <TextField sending={sending} name={`${place}.type`} label={t('whenOfType')} hint={t('typeHint')} />
        <SelectField
          sending={sending}
          name={`${place}.does`}
          label={t('itDoes')}
          options={DEEDS.map((one) => [one, t(`does.${one}`)] as const)}
        />
        {does !== 'add' && <TextField sending={sending} name={`${place}.key`} label={t('key')} />}
        <TextField sending={sending} name={`${place}.actor`} label={t('actor')} hint={t('actorHint')} />
        {does === 'comment' && <TextField sending={sending} name={`${place}.text`} label={t('text')} />}
      </div>
      {(does === 'keep' || does === 'add') && (
        <>
          <p className="small quiet">{t('fromHint')}</p>
          {source.fields.map((field, index) => (
            <div key={field.id} className="two-fields">
              <TextField
                sending={sending}
                name={`${place}.fields.${index}.from`}
                label={t('fieldFrom', { field: field.name })}
                placeholder="/data/…"
              />
              <TextField
                sending={sending}
                name={`${place}.fields.${index}.fixed`}
                label={t('fixedFor')}
                aria-label={t('fixedNamed', { field: field.name })}
              />
            </div>
          ))}
        </>
      )}
    </>
  );
}
