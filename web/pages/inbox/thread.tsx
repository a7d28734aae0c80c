import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Loaded, ProblemNote, Time, useViewer } from '../../parts/index.ts';
import { useSay, useThread } from '../../queries/index.ts';
import { t } from '../../words/inbox.ts';
import { phrases } from '../../words/index.ts';

/** What those say to each other to whom something was passed on. */
export function Thread({ id }: { id: string }) {
  const { me, person } = useViewer();
  const thread = useThread(id);
  const say = useSay(id);
  const [words, setWords] = useState('');
  const nameOf = (one: string) => (one === me.id ? t('you') : person(one));
  const send = () => words.trim() !== '' && say.mutate(words.trim(), { onSuccess: () => setWords('') });
  return (
    <section>
      <h3>{t('whatIsSaidAboutIt')}</h3>
      <Loaded query={thread} what={t('whatIsSaid')} rows={2}>
        {(known) => (
          <>
            <p className="quiet small">
              {t('passedItOnTo', {
                mine: known.beganBy === me.id ? 'yes' : 'no',
                name: person(known.beganBy),
                people: phrases().and(
                  known.people
                    .filter((one) => one !== known.beganBy)
                    .map((one) => (one === me.id ? t('youAmongOthers') : person(one))),
                ),
              })}
            </p>
            <ol className="plain-list thread">
              {known.words.map((one) => (
                <li key={`${one.at} ${one.person}`}>
                  <Time at={one.at} />
                  <div className="wrap-anywhere">
                    <strong>{nameOf(one.person)}</strong> {one.words}
                  </div>
                </li>
              ))}
            </ol>
            {say.error && <ProblemNote error={say.error} />}
            <Form
              className="mt-2"
              onSubmit={(event) => {
                event.preventDefault();
                send();
              }}
            >
              <Form.Control
                as="textarea"
                rows={2}
                maxLength={2000}
                aria-label={t('yourAnswer')}
                placeholder={t('yourAnswer')}
                value={words}
                onChange={(event) => setWords(event.target.value)}
              />
              <div className="acts">
                <Button type="submit" disabled={words.trim() === '' || say.isPending}>
                  {t('answerAll')}
                </Button>
              </div>
            </Form>
          </>
        )}
      </Loaded>
    </section>
  );
}
