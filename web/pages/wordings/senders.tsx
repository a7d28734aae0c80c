import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { type SenderOption, senderSchema } from '../../../contract/wire/index.ts';
import { Controlled, Ends, Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { faultId, ProblemNote, Radios, useDraftKey, useNotice, useViewer } from '../../parts/index.ts';
import { useDropSender, useSaveSender } from '../../queries/index.ts';
import { t } from '../../words/wordings.ts';

type Kind = SenderOption['kind'];
const KINDS = {
  house: () => t('theHouse'),
  team: () => t('aTeam'),
  person: () => t('somebody'),
} satisfies Record<Kind, () => string>;

/** The names that messages may come in, with their addresses. Stewards set them up; rules choose among them. */
export function SendersSection() {
  const { directory, me } = useViewer();
  const [open, setOpen] = useState<string | null>(null);
  const mayWrite = me.role === 'steward';
  const { senders } = directory.house;
  return (
    <section className="house-part" aria-labelledby="senders">
      <div className="page-head">
        <h2 id="senders">{t('inWhoseName')}</h2>
        <span className="quiet">{t('namesRulesChoose')}</span>
        {mayWrite && open !== 'new' && (
          <div className="acts">
            <Button variant="outline-primary" onClick={() => setOpen('new')}>
              {t('newName')}
            </Button>
          </div>
        )}
      </div>
      {open === 'new' && <SenderEditor sender={null} onDone={() => setOpen(null)} />}
      {senders.length === 0 && open !== 'new' && <p className="quiet">{t('onlyOjoSoFar')}</p>}
      <ul className="plain-list senders">
        {senders.map((sender) =>
          open === sender.id ? (
            <li key={sender.id}>
              <SenderEditor sender={sender} onDone={() => setOpen(null)} />
            </li>
          ) : (
            <li key={sender.id} className="sender">
              <strong>{sender.name}</strong>
              <span className="quiet wrap-anywhere">{sender.address || t('hasLeftSoOjo')}</span>
              <span className="quiet small">{KINDS[sender.kind]()}</span>
              {mayWrite && (
                <Button
                  variant="quiet"
                  size="sm"
                  aria-label={t('editName', { name: sender.name })}
                  onClick={() => setOpen(sender.id)}
                >
                  {t('edit')}
                </Button>
              )}
            </li>
          ),
        )}
      </ul>
    </section>
  );
}

function SenderEditor({ sender, onDone }: { sender: SenderOption | null; onDone: () => void }) {
  const { directory } = useViewer();
  const notice = useNotice();
  const save = useSaveSender();
  const drop = useDropSender();
  const sending = useSending({
    shape: senderSchema,
    start: {
      kind: sender?.kind ?? 'team',
      person: sender?.person ?? '',
      name: sender?.person ? '' : (sender?.name ?? ''),
      address: sender?.person ? '' : (sender?.address ?? ''),
    },
    draft: useDraftKey(`sender.${sender?.id ?? 'new'}`),
    send: (read) => save.mutateAsync({ id: sender?.id ?? null, ...read }),
    onSent: () => {
      notice({ words: t('nameIsSaved') });
      onDone();
    },
  });
  const kind = sending.form.watch('kind');
  const takeAway = () =>
    drop.mutate(sender?.id ?? '', {
      onSuccess: () => {
        notice({ words: t('isGone', { name: sender?.name ?? '' }) });
        onDone();
      },
    });
  return (
    <SendForm sending={sending} className="wording-editor">
      <fieldset className="choices">
        <legend className="form-label">{t('whoseName')}</legend>
        <Radios
          name="kind"
          options={(['house', 'team', 'person'] as const).map((one) => [one, KINDS[one]()] as const)}
          chosen={kind}
          onChange={(next) => sending.form.setValue('kind', next)}
        />
      </fieldset>
      {kind === 'person' ? (
        <div className="field">
          <Form.Label htmlFor="sender-person">{t('who')}</Form.Label>
          <Controlled sending={sending} name="person" id="sender-person">
            {(value, onChange, isInvalid) => (
              <Form.Select
                id="sender-person"
                value={value}
                isInvalid={isInvalid}
                aria-describedby={faultId('sender-person')}
                onChange={(event) => onChange(event.target.value)}
              >
                <option value="">{t('choose')}</option>
                {directory.people
                  .filter((one) => one.isActive)
                  .map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}, {one.title}
                    </option>
                  ))}
              </Form.Select>
            )}
          </Controlled>
          <p className="small quiet mt-1">{t('theirOwnAddress')}</p>
        </div>
      ) : (
        <>
          <TextField sending={sending} name="name" label={t('nameReadersSee')} />
          <TextField sending={sending} name="address" label={t('address')} hint={t('answersGoThere')} />
        </>
      )}
      <Refused sending={sending} />
      {drop.error && <ProblemNote error={drop.error} />}
      <Ends sending={sending} words={t('save')} leave={t('leaveIt')} onLeave={onDone}>
        {sender && (
          <Button variant="quiet" onClick={takeAway}>
            {t('deleteIt')}
          </Button>
        )}
      </Ends>
    </SendForm>
  );
}
