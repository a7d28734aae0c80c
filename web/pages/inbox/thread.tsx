import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Loaded, ProblemNote, Time, useViewer, joined } from '../../parts/index.ts';
import { useSay, useThread } from '../../queries/index.ts';

/** What those say to each other to whom something was passed on. */
export function Thread({ id }: { id: string }) {
  const { me, person } = useViewer();
  const thread = useThread(id);
  const say = useSay(id);
  const [words, setWords] = useState('');
  const nameOf = (one: string) => (one === me.id ? 'You' : person(one));
  const send = () => words.trim() !== '' && say.mutate(words.trim(), { onSuccess: () => setWords('') });
  return (
    <section>
      <h3>What is said about it</h3>
      <Loaded query={thread} what="what is said" rows={2}>
        {(known) => (
          <>
            <p className="quiet small">
              {known.beganBy === me.id ? 'You' : person(known.beganBy)} passed it on to{' '}
              {joined(
                known.people.filter((one) => one !== known.beganBy).map((one) => (one === me.id ? 'you' : person(one))),
              )}
              .
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
                aria-label="Your answer"
                placeholder="Your answer"
                value={words}
                onChange={(event) => setWords(event.target.value)}
              />
              <div className="acts">
                <Button type="submit" disabled={words.trim() === '' || say.isPending}>
                  Answer all
                </Button>
              </div>
            </Form>
          </>
        )}
      </Loaded>
    </section>
  );
}
