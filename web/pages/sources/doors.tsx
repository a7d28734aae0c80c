import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { DoorRow } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { Empty, Loaded, ProblemNote, Time, ToldOnce } from '../../parts/index.ts';
import { useDoors, useRekeyDoor } from '../../queries/index.ts';
import { t } from '../../words/doors.ts';
import { DoorEditor, type Keyed } from './door-editor.tsx';

/** Doors by which other programs hand changes of the source in, for stewards. */
export function Doors({ source }: { source: Source }) {
  const doors = useDoors(source.id);
  const [open, setOpen] = useState<string | null>(null);
  const [keyed, setKeyed] = useState<Keyed | null>(null);
  const onDone = () => setOpen(null);
  return (
    <section className="groups-page">
      <p className="quiet mt-3">
        {t('whatADoorIs')} <Link to="/programs">{t('howToHandIn')}</Link>
      </p>
      {keyed && (
        <ToldOnce
          words={t('keepTheKey', { name: keyed.name })}
          value={keyed.key}
          label={t('theKeyOf', { name: keyed.name })}
          onDone={() => setKeyed(null)}
        />
      )}
      {open === 'new' ? (
        <DoorEditor source={source} door={null} onDone={onDone} onKey={setKeyed} />
      ) : (
        <Button variant="outline-primary" size="sm" className="mt-2" onClick={() => setOpen('new')}>
          {t('newDoor')}
        </Button>
      )}
      <Loaded query={doors} what={t('theDoors')} rows={3}>
        {(rows) =>
          rows.length === 0 && open !== 'new' ? (
            <Empty title={t('noDoorYet')}>{null}</Empty>
          ) : (
            <ul className="plain-list group-rows">
              {rows.map((door) => (
                <li key={door.id}>
                  {open === door.id ? (
                    <DoorEditor source={source} door={door} onDone={onDone} onKey={setKeyed} />
                  ) : (
                    <DoorLine source={source} door={door} onEdit={() => setOpen(door.id)} onKey={setKeyed} />
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
  source: Source;
  door: DoorRow;
  onEdit: () => void;
  onKey: (keyed: Keyed) => void;
}

function DoorLine({ source, door: { id, name, isOpen, mappings, taken, refused, lastAt }, onEdit, onKey }: LineProps) {
  const rekey = useRekeyDoor(source.id, id);
  return (
    <div className="group-row">
      <div className="form-line">
        <strong>{name}</strong> {!isOpen && <strong className="fault">{t('isClosed')}</strong>}
        <ul className="plain-list small">
          {mappings.map(({ type, does }) => (
            <li key={type}>
              <span className="mono">{type}</span> {t(`does.${does}`)}
            </li>
          ))}
        </ul>
        <div className="quiet small">
          {t('cameSoFar', { taken })}
          {refused > 0 && t('refusedSoFar', { refused })}
          {lastAt && <>. {t.rich('lastCame', { time: <Time at={lastAt} /> })}</>}
        </div>
        {rekey.error && <ProblemNote error={rekey.error} />}
        <Button
          variant="link"
          size="sm"
          className="p-0"
          disabled={rekey.isPending}
          aria-label={t('anotherKeyFor', { name })}
          onClick={() => rekey.mutate(undefined, { onSuccess: ({ key }) => onKey({ name, key }) })}
        >
          {t('anotherKey')}
        </Button>
      </div>
      <Button variant="quiet" size="sm" aria-label={t('editDoor', { name })} onClick={onEdit}>
        {t('edit')}
      </Button>
    </div>
  );
}
