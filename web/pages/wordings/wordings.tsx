import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { marked, rulePath } from '../../../core/messages/index.ts';
import { Empty, keepersOf, OwnWords, templateInWords, useViewer } from '../../parts/index.ts';
import { useRules } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/wordings.ts';
import { PaperSection } from './paper.tsx';
import { SendersSection } from './senders.tsx';
import { placeWords } from './usual-places.tsx';
import { WordingEditor } from './wording-editor.tsx';

/** Texts that several rules share, each with the rules that use it. */
export function WordingsPage() {
  const viewer = useViewer();
  const { directory, me } = viewer;
  const rules = useRules();
  const [open, setOpen] = useState<string | null>(null);
  const mayWrite = me.role !== 'member';
  const stewards = phrases().or(directory.stewards.map(viewer.person));
  const inWords = (template: string) => templateInWords(template, directory.sources, directory.sources);
  const usersOf = (id: string) =>
    (rules.data ?? []).filter((row) => row.state !== 'ended' && (row.live ?? row.draft)?.message.wording === id);
  return (
    <main className="page">
      <p className="crumbs">
        <Link to="/rules">{t('rules')}</Link>
      </p>
      <div className="page-head">
        <h1>{t('wordings')}</h1>
        <span className="quiet">{t('aSubjectAndBodyThat')}</span>
        {!mayWrite && (
          <p className="small quiet">
            {t('writtenBy', {
              keepers: keepersOf(
                directory.sources.map((one) => one.id),
                viewer,
              ),
            })}
          </p>
        )}
        {mayWrite && (
          <div className="acts">
            <Button variant="outline-primary" onClick={() => setOpen('new')}>
              {t('newWording')}
            </Button>
          </div>
        )}
      </div>
      {open === 'new' && (
        <WordingEditor
          wording={{ id: '', name: '', subject: '{{ item.title }}', body: '', usual: [] }}
          users={[]}
          onDone={() => setOpen(null)}
        />
      )}
      {directory.wordings.length === 0 && open !== 'new' && (
        <Empty title={t('noSharedWordingYet')}>
          <p>{t('ojoSaysWhatChangedIn')}</p>
        </Empty>
      )}
      <ul className="plain-list wordings">
        {directory.wordings.map((wording) => (
          <li key={wording.id}>
            {open === wording.id ? (
              <WordingEditor wording={wording} users={usersOf(wording.id)} onDone={() => setOpen(null)} />
            ) : (
              <>
                <div className="page-head">
                  <h2>{wording.name}</h2>
                  {mayWrite && (wording.usual.length === 0 || me.role === 'steward') && (
                    <div className="acts">
                      <Button variant="quiet" onClick={() => setOpen(wording.id)}>
                        {t('edit')}
                      </Button>
                    </div>
                  )}
                </div>
                <p>
                  <strong>{wording.subject ? inWords(wording.subject) : t('theUsualSubject')}</strong>
                </p>
                <div className="wording-body own-words">
                  {wording.body ? <OwnWords text={marked(inWords(wording.body))} /> : <p>{t('theUsualBody')}</p>}
                </div>
                {wording.usual.length > 0 && (
                  <p className="small">
                    {t('usualFor', { places: phrases().and(wording.usual.map((place) => placeWords(place, viewer))) })}{' '}
                    {me.role !== 'steward' && <span className="quiet">{t('stewardsWriteIt', { stewards })}</span>}
                  </p>
                )}
                <p className="small quiet">
                  {usersOf(wording.id).length === 0 ? (
                    wording.usual.length === 0 && t('noRuleUsesIt')
                  ) : (
                    <>
                      {t('usedBy')}{' '}
                      {usersOf(wording.id).map((row, at) => (
                        <span key={row.id}>
                          {at > 0 && ', '}
                          <Link to={rulePath(row.id)}>{(row.live ?? row.draft)?.name}</Link>
                        </span>
                      ))}
                    </>
                  )}
                </p>
              </>
            )}
          </li>
        ))}
      </ul>
      <PaperSection />
      <SendersSection />
      {me.role !== 'steward' && <p className="small quiet mt-3">{t('houseBy', { stewards })}</p>}
    </main>
  );
}
