import { Button } from 'react-bootstrap';
import { saySchema } from '../../../contract/wire/index.ts';
import { Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { Loaded, Time, useViewer, useDraftKey } from '../../parts/index.ts';
import { useSay, useThread } from '../../queries/index.ts';
import { t } from '../../words/inbox.ts';
import { phrases } from '../../words/index.ts';

/** What those say to each other to whom something was passed on. */
export function Thread({ id }: { id: string }) {
  const { me, person } = useViewer();
  const thread = useThread(id);
  const nameOf = (one: string) => (one === me.id ? t('you') : person(one));
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
            <Answer id={id} />
          </>
        )}
      </Loaded>
    </section>
  );
}

function Answer({ id }: { id: string }) {
  const say = useSay(id);
  const sending = useSending({
    start: { words: '' },
    shape: saySchema,
    draft: useDraftKey(`thread.${id}`),
    send: ({ words }) => say.mutateAsync(words),
    onSent: () => sending.giveUp(),
  });
  return (
    <SendForm sending={sending} className="mt-2">
      <TextField
        sending={sending}
        name="words"
        label={t('yourAnswer')}
        isBare
        as="textarea"
        rows={2}
        placeholder={t('yourAnswer')}
      />
      <Refused sending={sending} />
      <div className="acts">
        <Button type="submit" disabled={sending.isPending}>
          {t('answerAll')}
        </Button>
      </div>
    </SendForm>
  );
}
