import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Loaded, ProblemNote, Time, useReading } from '../../parts/index.ts';
import { useSay, useTalk } from '../../queries/index.ts';
import { joined } from '../rule-words.ts';

/** What those say to each other to whom something was passed on. */
export function Talk({ id }: { id: string }) {
  const { me, person } = useReading();
  const talk = useTalk(id);
  const say = useSay(id);
  const [words, setWords] = useState('');
  const nameOf = (one: string) => (one === me.id ? 'You' : person(one));
  const send = () => words.trim() !== '' && say.mutate(words.trim(), { onSuccess: () => setWords('') });
  return (
    <section>
      <h3>What is said about it</h3>
      <Loaded query={talk} what="what is said" rows={2}>
        {(known) => (
          <>
            <p className="quiet small">
              {known.beganBy === me.id ? 'You' : person(known.beganBy)} passed it on to{' '}
              {joined(
                known.people.filter((one) => one !== known.beganBy).map((one) => (one === me.id ? 'you' : person(one))),
              )}
              .
            </p>
            <ol className="plain-list talk">
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
