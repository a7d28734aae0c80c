import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { AccessPage, Rights } from '../../../contract/wire/index.ts';
import { rulePath } from '../../../core/messages/index.ts';
import type { Source } from '../../../core/values/index.ts';
import {
  Combobox,
  Empty,
  forgetDraft,
  keepersOf,
  Loaded,
  ProblemNote,
  readDraft,
  useDraftKey,
  useNotice,
  useViewer,
  writeDraft,
} from '../../parts/index.ts';
import { type AccessAsked, useAccess, useAccessPreview, useSaveAccess } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/access.ts';
import { FolderChip, pathOf } from '../documents/folder-chip.tsx';
import { Chip } from '../rules/editors/chip.tsx';
import { LooksNoted } from './looks.tsx';
import { RightsSentence } from './rights-sentence.tsx';

/** So many people are named, the others counted. */
const MOST_NAMED = 8;

type Place = AccessPage['places'][number];

/** Who may read, add and edit: in the source, and in each folder that breaks from it; and whether one person may. */
export function WhoMay({ source }: { source: Source }) {
  const viewer = useViewer();
  const isKeeper = viewer.directory.coordinates.includes(source.id);
  if (!isKeeper)
    return (
      <Empty title={t('notYoursToSee')}>
        <p>{t('askThem', { who: keepersOf([source.id], viewer) })}</p>
      </Empty>
    );
  return <Places source={source} />;
}

function Places({ source }: { source: Source }) {
  const access = useAccess(source.id);
  const [fresh, setFresh] = useState<string | null>(null);
  const { directory } = useViewer();
  const folders = directory.folders.filter((one) => one.source === source.id);
  return (
    <Loaded query={access} what={t('whoMay')} rows={4}>
      {({ places, mayChange }) => {
        const whole = places.find(({ folder }) => folder === null);
        const unbroken = folders.filter(({ id }) => !places.some(({ folder }) => folder === id));
        const begun: Place[] = fresh !== null && whole ? [{ ...whole, folder: fresh }] : [];
        return (
          <>
            <OnePerson source={source} places={places} />
            <ul className="plain-list who-may">
              {[...places, ...begun].map((place) => (
                <PlaceRights
                  key={`${place.folder} ${JSON.stringify(place.rights)}`}
                  source={source}
                  place={place}
                  mayChange={mayChange}
                  isFresh={place.folder !== null && place.folder === fresh}
                  onLeave={() => setFresh(null)}
                />
              ))}
            </ul>
            {mayChange && unbroken.length > 0 && (
              <FolderChip
                words={t('breakAFolder')}
                className="is-adding who-may-folder"
                question={t('whichFolder')}
                offered={unbroken}
                onChoose={setFresh}
              />
            )}
            {!mayChange && <p className="quiet small">{t('stewardsChangeIt')}</p>}
            <LooksNoted source={source} />
          </>
        );
      }}
    </Loaded>
  );
}

interface PlaceProps {
  source: Source;
  place: Place;
  mayChange: boolean;
  /** It has just been chosen to have rights of its own, and has none yet. */
  isFresh: boolean;
  onLeave: () => void;
}

/** One place's rights as a sentence whose parts are pressed to change them; what that comes to is said before it is kept. */
function PlaceRights({ source, place, mayChange, isFresh, onLeave }: PlaceProps) {
  const { directory } = useViewer();
  const notice = useNotice();
  const save = useSaveAccess(source.id);
  const { rights, setRights, forget } = useRightsTyped(source.id, place);
  const folders = directory.folders.filter((one) => one.source === source.id);
  const isEdited = isFresh || JSON.stringify(rights) !== JSON.stringify(place.rights);
  const asked: AccessAsked | null = isEdited ? { folder: place.folder, rights } : null;
  const isClosed = rights?.readers?.length === 0;
  const leave = () => {
    setRights(place.rights);
    save.reset();
    onLeave();
  };
  const keep = () =>
    asked &&
    save.mutate(asked, {
      onSuccess: () => {
        forget();
        notice({
          words: t('kept'),
          undo: () => save.mutate({ folder: place.folder, rights: isFresh ? null : place.rights }),
        });
        onLeave();
      },
    });
  return (
    <li>
      <h3>{place.folder === null ? t('allOf', { name: source.name }) : pathOf(place.folder, folders)}</h3>
      {rights === null ? (
        <p>{t('asAbove')}</p>
      ) : (
        <RightsSentence source={source} rights={rights} isFixed={!mayChange} onChange={setRights} />
      )}
      {mayChange && place.folder !== null && !isFresh && rights !== null && (
        <Button variant="link" size="sm" onClick={() => setRights(null)}>
          {t('goByAbove')}
        </Button>
      )}
      {isEdited && (
        <div className="who-may-preview">
          {isClosed ? <p className="fault">{t('nobodyYet')}</p> : <Preview source={source} asked={asked} />}
          {save.error && <ProblemNote error={save.error} />}
          <div className="acts">
            <Button disabled={save.isPending || isClosed} onClick={keep}>
              {t('keepIt')}
            </Button>
            <Button variant="quiet" onClick={leave}>
              {t('leaveIt')}
            </Button>
          </div>
        </div>
      )}
    </li>
  );
}

/** Rights as they are edited: what is not kept yet stays in this browser, as long as those that are kept are the same. */
function useRightsTyped(source: string, { folder, rights: kept }: Place) {
  const key = useDraftKey(`rights.${source}.${folder ?? ''}`);
  const base = JSON.stringify(kept);
  const [rights, setRights] = useState<Rights | null>(() => {
    const before = readDraft<Rights | null>(key);
    return before?.base === base ? before.value : kept;
  });
  const put = (next: Rights | null) => {
    if (JSON.stringify(next) === base) forgetDraft(key);
    else writeDraft(key, { base, value: next });
    setRights(next);
  };
  return { rights, setRights: put, forget: () => forgetDraft(key) };
}

/** Whom a change shuts out and lets in, and which rules then tell nobody. */
function Preview({ source, asked }: { source: Source; asked: AccessAsked | null }) {
  const { person } = useViewer();
  const preview = useAccessPreview(source.id, asked);
  const names = (ids: readonly string[]) => {
    const shown = ids.slice(0, MOST_NAMED).map(person);
    return phrases().and(ids.length > MOST_NAMED ? [...shown, t('more', { count: ids.length - MOST_NAMED })] : shown);
  };
  return (
    <Loaded query={preview} what={t('whatItComesTo')} rows={2}>
      {({ shutOut, letIn, silent }) => (
        <ul className="plain-list" aria-live="polite">
          {shutOut.length > 0 && (
            <li className="fault">{t('shutOut', { count: shutOut.length, who: names(shutOut) })}</li>
          )}
          {letIn.length > 0 && <li>{t('letIn', { count: letIn.length, who: names(letIn) })}</li>}
          {shutOut.length + letIn.length === 0 && <li>{t('nobodyElse')}</li>}
          {silent.map(({ id, name }) => (
            <li key={id} className="fault">
              <Link to={rulePath(id)}>{name}</Link> {t('wouldTellNobody')}
            </li>
          ))}
        </ul>
      )}
    </Loaded>
  );
}

/** Whether one person reads it, place by place, and why not. */
function OnePerson({ source, places }: { source: Source; places: readonly Place[] }) {
  const { directory, person } = useViewer();
  const [id, setId] = useState<string | null>(null);
  const folders = directory.folders.filter((one) => one.source === source.id);
  const say = ({ outright, isByItem }: Place, who: string) => {
    if (outright.includes(who)) return t('readsIt');
    return isByItem ? t('readsSome') : t('readsNothing');
  };
  return (
    <section className="one-person">
      <Chip
        label={t('whoIsAsked')}
        className={id === null ? 'is-adding' : ''}
        isPlain
        editor={(close) => (
          <Combobox
            label={t('whoIsAsked')}
            offers={directory.people
              .filter((one) => one.isActive)
              .map(({ id: value, name, title }) => ({ value, name, kind: title }))}
            onAdd={(person) => {
              setId(person);
              close();
            }}
          />
        )}
      >
        {t('doesOneRead')}
      </Chip>
      {id !== null && (
        <ul className="plain-list" aria-live="polite">
          {places.map((place) => (
            <li key={place.folder}>
              <strong>{person(id)}</strong> {say(place, id)}{' '}
              {place.folder === null ? source.name : pathOf(place.folder, folders)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
