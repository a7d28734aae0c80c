import { useEffect, useId } from 'react';
import { Button } from 'react-bootstrap';
import { type MachineRow, machineSchema } from '../../../contract/wire/index.ts';
import { BODY_KINDS, type BodyKind, MACHINE_NAMES } from '../../../core/messages/index.ts';
import {
  Controlled,
  Ends,
  Refused,
  SelectField,
  SendForm,
  type Sending,
  TextField,
  useSending,
} from '../../forms/index.ts';
import { ProblemNote, useDraftKey, useNotice, useTyped, Writing } from '../../parts/index.ts';
import { useAddMachine, useDropMachine, useMachinePreview, useSaveMachine } from '../../queries/index.ts';
import { t } from '../../words/machines.ts';

/** A secret that has just been made, with whose it is. */
export interface Made {
  name: string;
  secret: string;
}

/** What stands in a template at first, so that there is something to change. */
const BEGINNINGS: Record<BodyKind, string> = {
  event: '',
  json: '{\n  "text": "{{ message.headline }} {{ message.link }}"\n}',
  text: '{{ message.headline }}\n{{ message.link }}',
};

interface EditorProps {
  machine: MachineRow | null;
  onDone: () => void;
  onMade: (made: Made) => void;
}

/** Where a machine is, and how it is told. */
export function MachineEditor({ machine, onDone, onMade }: EditorProps) {
  const notice = useNotice();
  const add = useAddMachine();
  const save = useSaveMachine(machine?.id ?? '');
  const drop = useDropMachine(machine?.id ?? '');
  const sending = useSending({
    shape: machineSchema,
    start: {
      name: machine?.name ?? '',
      url: machine?.url ?? 'https://',
      kind: machine?.kind ?? 'event',
      template: machine?.template ?? '',
    },
    draft: useDraftKey(`machine.${machine?.id ?? 'new'}`),
    send: async (read) => {
      if (machine) await save.mutateAsync({ ...read, isPaused: machine.isPaused });
      else onMade({ name: read.name, secret: (await add.mutateAsync(read)).secret });
    },
    onSent: () => {
      if (machine) notice({ words: t('isKept') });
      onDone();
    },
  });
  const takeAway = () =>
    drop.mutate(undefined, {
      onSuccess: () => {
        notice({ words: t('isGone', { name: machine?.name ?? '' }) });
        onDone();
      },
    });
  return (
    <SendForm sending={sending} className="group-editor">
      <TextField sending={sending} name="name" label={t('name')} autoFocus />
      <TextField sending={sending} name="url" label={t('address')} hint={t('eventsAreSigned')} />
      <Body sending={sending} />
      <Refused sending={sending} />
      {drop.error && <ProblemNote error={drop.error} />}
      <Ends sending={sending} words={machine ? t('keepIt') : t('makeIt')} leave={t('leaveIt')} onLeave={onDone}>
        {machine && (
          <Button variant="link" className="fault" disabled={drop.isPending} onClick={takeAway}>
            {t('takeAway')}
          </Button>
        )}
      </Ends>
    </SendForm>
  );
}

/** What it is posted: an event, or the house's own, written with placeholders and seen beside it. */
function Body({ sending }: { sending: Sending<{ name: string; url: string; kind: BodyKind; template: string }> }) {
  const id = useId();
  const { watch, setValue } = sending.form;
  const [kind, template] = watch(['kind', 'template']);
  const isOwn = kind !== 'event';
  useEffect(() => {
    if (isOwn && template === '') setValue('template', BEGINNINGS[kind]);
  }, [isOwn, kind, template, setValue]);
  return (
    <>
      <SelectField
        sending={sending}
        name="kind"
        label={t('whatItGets')}
        options={BODY_KINDS.map((one) => [one, t(`gets.${one}`)] as const)}
      />
      {isOwn && (
        <div className="field">
          <Controlled sending={sending} name="template" id={id}>
            {(value, onChange, isInvalid) => (
              <Writing
                id={id}
                label={t('itsTemplate')}
                value={value ?? ''}
                onChange={onChange}
                names={MACHINE_NAMES}
                sources={NO_SOURCES}
                isVerbatim
                isInvalid={isInvalid}
              />
            )}
          </Controlled>
          <Preview kind={kind} template={template} />
        </div>
      )}
    </>
  );
}

const NO_SOURCES = [] as const;

/** The last message as the machine would be posted it. */
function Preview({ kind, template }: { kind: BodyKind; template: string }) {
  const asked = useTyped(template);
  const preview = useMachinePreview(kind, asked);
  return (
    <>
      <p className="small quiet mt-2 mb-1">{t('asItWouldGo')}</p>
      {preview.error ? (
        <p className="small quiet">{t('notYet')}</p>
      ) : (
        <pre className="mail-source" aria-live="polite">
          {preview.data?.body}
        </pre>
      )}
    </>
  );
}
