import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { MachineRow } from '../../../contract/wire/index.ts';
import { Empty, Loaded, ProblemNote, replyWords, Time, ToldOnce } from '../../parts/index.ts';
import { useMachines, useRotateSecret, useSaveMachine, useTryMachine } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/machines.ts';
import { type Made, MachineEditor } from './machine-editor.tsx';

/** Machines that rules may tell by HTTP: where each is, how it does, and the secret that signs what goes there. */
export function Machines() {
  const machines = useMachines();
  const [open, setOpen] = useState<string | null>(null);
  const [made, setMade] = useState<Made | null>(null);
  const onDone = () => setOpen(null);
  return (
    <section className="groups-page">
      <p className="quiet mt-3">{t('whatAMachineIs')}</p>
      {made && (
        <ToldOnce
          words={t('keepTheSecret', { name: made.name })}
          value={made.secret}
          label={t('theSecretOf', { name: made.name })}
          onDone={() => setMade(null)}
        />
      )}
      {open === 'new' ? (
        <MachineEditor machine={null} onDone={onDone} onMade={setMade} />
      ) : (
        <Button variant="outline-primary" size="sm" className="mt-2" onClick={() => setOpen('new')}>
          {t('newMachine')}
        </Button>
      )}
      <Loaded query={machines} what={t('theMachines')} rows={3}>
        {(rows) =>
          rows.length === 0 && open !== 'new' ? (
            <Empty title={t('noMachineYet')}>
              <p>{t('aTeamsRoom')}</p>
            </Empty>
          ) : (
            <ul className="plain-list group-rows">
              {rows.map((machine) => (
                <li key={machine.id}>
                  {open === machine.id ? (
                    <MachineEditor machine={machine} onDone={onDone} onMade={setMade} />
                  ) : (
                    <MachineLine machine={machine} onEdit={() => setOpen(machine.id)} onMade={setMade} />
                  )}
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </section>
  );
}

interface LineProps {
  machine: MachineRow;
  onEdit: () => void;
  onMade: (made: Made) => void;
}

function MachineLine({ machine, onEdit, onMade }: LineProps) {
  const { id, name, url, kind, template, isPaused, failingSince, rules, oldSecretUntil } = machine;
  const tried = useTryMachine(id);
  const save = useSaveMachine(id);
  const rotate = useRotateSecret(id);
  const turn = () => save.mutate({ name, url, kind, template, isPaused: !isPaused });
  return (
    <div className="group-row">
      <div className="form-line">
        <strong>{name}</strong> {isPaused && <strong className="fault">{t('isPaused')}</strong>}
        <div className="quiet wrap-anywhere">{url}</div>
        {kind !== 'event' && <div className="small">{t(`gets.${kind}`)}</div>}
        <div className="quiet small">
          {rules.length > 0 ? t('toldBy', { rules: phrases().and(rules) }) : t('toldByNothing')}
        </div>
        {failingSince && (
          <div className="fault small">{t.rich('failsSince', { time: <Time at={failingSince} /> })}</div>
        )}
        {oldSecretUntil && (
          <div className="quiet small">{t.rich('oldSecretUntil', { time: <Time at={oldSecretUntil} /> })}</div>
        )}
        {tried.data && (
          <div className={`small wrap-anywhere ${tried.data.isTaken ? 'live' : 'fault'}`} role="status">
            {replyWords(tried.data.reply, tried.data.isTaken)}
          </div>
        )}
        {[tried.error, save.error, rotate.error].map(
          (error) => error && <ProblemNote key={String(error)} error={error} />,
        )}
        <div className="row-acts mt-1">
          <Button
            variant="link"
            size="sm"
            disabled={tried.isPending}
            aria-label={t('tryNamed', { name })}
            onClick={() => tried.mutate(undefined)}
          >
            {tried.isPending ? t('isTried') : t('tryIt')}
          </Button>
          <Button variant="link" size="sm" disabled={save.isPending} onClick={turn}>
            {isPaused ? t('goOn') : t('pause')}
          </Button>
          <Button
            variant="link"
            size="sm"
            disabled={rotate.isPending}
            aria-label={t('anotherSecretFor', { name })}
            onClick={() => rotate.mutate(undefined, { onSuccess: ({ secret }) => onMade({ name, secret }) })}
          >
            {t('anotherSecret')}
          </Button>
        </div>
      </div>
      <Button variant="quiet" size="sm" aria-label={t('editMachine', { name })} onClick={onEdit}>
        {t('edit')}
      </Button>
    </div>
  );
}
