import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import type { RecipientRow, ItemPage } from '../../../contract/wire/index.ts';
import { isFault, reasonWords } from '../../../contract/words/refusals.ts';
import { rulePath, paceWords } from '../../../core/messages/index.ts';
import { formatValue, isEmpty, type Source } from '../../../core/values/index.ts';
import {
  ItemLink,
  Loaded,
  Sheet,
  Timeline,
  useNotice,
  useViewer,
  reasonPhrase,
  readDraft,
  useDraftKey,
} from '../../parts/index.ts';
import { fileAddress, useItem, useRemoveItem } from '../../queries/index.ts';
import { ItemTrail } from './item-trail.tsx';
import { NotedWhoOpens, WhoOpened } from './looks.tsx';
import { LinkedItems } from './linked-items.tsx';
import { CommentBox } from '../documents/comment-box.tsx';
import { DocumentActs } from '../documents/document-acts.tsx';
import { SheetRows } from '../documents/sheet-rows.tsx';
import { Versions } from '../documents/versions.tsx';
import { EyeEditor } from './eye.tsx';
import { Eyes } from './eyes.tsx';
import { PassOn } from '../inbox/pass-on.tsx';
import { ItemForm, itemPlace } from './item-form.tsx';
import { phrases, locale } from '../../words/index.ts';
import { t as rights } from '../../words/access.ts';
import { t } from '../../words/sources.ts';

/** One item: its fields, what happened to it, and who hears of it. */
export function ItemSheet({ id, onClose }: { id: string; onClose: () => void }) {
  const item = useItem(id);
  return (
    <Sheet label={t('theItemInFocus')} name={id} onClose={onClose}>
      <Loaded query={item} what={t('theItem')}>
        {(page) => <Shown key={id} page={page} />}
      </Loaded>
    </Sheet>
  );
}

function Shown({ page }: { page: ItemPage }) {
  const { source: sourceOf, folder, me } = useViewer();
  const hasEye = page.eyes.some((eye) => eye.person === me.id);
  const typed = useDraftKey(itemPlace(page.item.id));
  // Whoever left in the middle of editing goes on there.
  const [isEditing, setEditing] = useState(() => page.mayEdit && readDraft(typed) !== null);
  const [isEyeing, setEyeing] = useState(false);
  const [isPassing, setPassing] = useState(false);
  const notice = useNotice();
  const remove = useRemoveItem();
  const { item } = page;
  const source = sourceOf(item.source);
  if (!source) return null;
  const takeAway = () =>
    remove.mutate(
      { id: item.id, from: item.version },
      {
        onSuccess: (gone) =>
          notice({
            words: t('isDeleted', { title: item.title }),
            undo: () => remove.mutate({ id: item.id, from: gone.version, isBack: true }),
          }),
      },
    );
  return (
    <>
      <p className="quiet small">
        {source.name}
        {item.folder && ` / ${folder(item.folder)?.name ?? ''}`}
      </p>
      <h2>{item.title}</h2>
      {item.isDeleted && (
        <p className="fault mt-1">
          <strong>{t('deleted')}</strong>{' '}
          <Button variant="link" onClick={() => remove.mutate({ id: item.id, from: item.version, isBack: true })}>
            {t('bringItBack')}
          </Button>
        </p>
      )}
      {isEditing ? (
        <ItemForm page={page} source={source} onDone={() => setEditing(false)} />
      ) : (
        <>
          <FieldList page={page} source={source} />
          <div className="acts">
            {page.mayEdit && <Button onClick={() => setEditing(true)}>{t('edit')}</Button>}
            {page.file && (
              <a className="btn btn-outline-primary" href={fileAddress(item.id)} target="_blank" rel="noreferrer">
                {t('openTheDocument')}
              </a>
            )}
            {!isPassing && !item.isDeleted && (
              <Button variant="outline-primary" onClick={() => setPassing(true)}>
                {t('passItOn')}
              </Button>
            )}
            {page.mayEdit && (
              <Button variant="quiet" onClick={takeAway}>
                {t('delete')}
              </Button>
            )}
          </div>
          <NotedWhoOpens looks={page.looks} />
          {page.onlyEditedBy && page.onlyEditedBy.length > 0 && (
            <p className="quiet small">{rights('onlyEditedBy', { who: phrases().and(page.onlyEditedBy) })}</p>
          )}
          {page.mayEdit && source.kind === 'folders' && <DocumentActs source={source} items={[item]} />}
          {isPassing && <PassOn item={item.id} onDone={() => setPassing(false)} />}
        </>
      )}
      {page.file && (
        <>
          <Versions item={item.id} source={source.id} mayAdd={page.mayEdit} />
          <WhoOpened looks={page.looks} />
          <SheetRows item={item.id} mayChange={page.mayEdit} />
        </>
      )}
      <section>
        <h3>{t('whatChanged')}</h3>
        <Timeline
          all={page.trail.map((row) => row.at)}
          caught={page.trail.filter((row) => row.caughtBy.length > 0).map((row) => row.at)}
          now={me.now}
          width={368}
          isWide
          label={t('theLast30Days')}
        />
        <ItemTrail page={page} source={source} />
        {!item.isDeleted && <CommentBox key={item.id} item={item.id} source={source.id} />}
      </section>
      <LinkedItems item={item.id} source={source} />
      <section>
        <h3>{t('keepAnEyeOnThis')}</h3>
        <Eyes eyes={page.eyes} />
        {isEyeing ? (
          <EyeEditor
            target={{
              source,
              item: { id: item.id, title: item.title, fields: item.fields },
              isNoted: page.looks.isNoted,
            }}
            onDone={() => setEyeing(false)}
          />
        ) : (
          <Button variant={hasEye ? 'link' : 'outline-primary'} onClick={() => setEyeing(true)}>
            {hasEye ? t('forSomethingElseAsWell') : t('keepAnEyeOnIt')}
          </Button>
        )}
      </section>
      <section>
        <h3>{t('whoHearsOfThis')}</h3>
        <Hears rows={page.hears} source={source} />
      </section>
    </>
  );
}

function FieldList({ page, source }: { page: ItemPage; source: Source }) {
  const { me, names } = useViewer();
  return (
    <dl className="field-list mt-3">
      {source.fields
        .filter((field) => field.id !== source.titleField)
        .map((field) => {
          const value = page.item.fields[field.id];
          const words = formatValue(field, value, me, names(page.names));
          const isLink = field.type === 'link' && typeof value === 'string' && page.names[value] !== undefined;
          return (
            <div key={field.id} style={{ display: 'contents' }}>
              <dt>{field.name}</dt>
              <dd>
                {isEmpty(value) && <span className="quiet">{t('empty')}</span>}
                {isLink ? <ItemLink id={value}>{words}</ItemLink> : words}
              </dd>
            </div>
          );
        })}
    </dl>
  );
}

function Hears({ rows, source }: { rows: RecipientRow[]; source: Source }) {
  const viewer = useViewer();
  const { person } = viewer;
  if (rows.length === 0)
    return (
      <p className="quiet">
        {t.rich('nobodyNoLiveRuleLooks', {
          link: <Link to={`/rules/new?source=${encodeURIComponent(source.id)}`}>{t('makeOne')}</Link>,
        })}
      </p>
    );
  const rules = [...new Map(rows.map((row) => [row.rule, row])).values()];
  return (
    <ul className="plain-list hears">
      {rules.map((rule) => (
        <li key={rule.rule} style={{ display: 'block', paddingBottom: '0.5rem' }}>
          <Link to={rulePath(rule.rule)}>{rule.ruleName}</Link>{' '}
          <span className="quiet">{paceWords(rule.soon, phrases())}</span>
          <ul className="plain-list">
            {rows
              .filter((row) => row.rule === rule.rule)
              .map((row) => (
                <li key={row.person} className={row.withheld ? 'is-withheld' : ''}>
                  <span>{person(row.person)}</span>
                  {row.withheld ? (
                    <span>
                      {t.rich('withheld', {
                        reason: (
                          <strong className={isFault(row.withheld) ? 'fault' : ''}>
                            {reasonWords(row.withheld, locale())}
                          </strong>
                        ),
                      })}
                    </span>
                  ) : (
                    <span className="quiet">
                      {row.reasons.map((reason) => reasonPhrase(reason, viewer, source)).join(', ')}
                    </span>
                  )}
                </li>
              ))}
          </ul>
        </li>
      ))}
    </ul>
  );
}
