import { useRef, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Logo, ProblemNote, roleName } from '../../parts/index.ts';
import { useDemo, useSignIn } from '../../queries/index.ts';
import { t } from '../../words/session.ts';

const ORDER = ['ines', 'wren', 'mei', 'petra', 'tomas', 'noor', 'marisol'];

export function SignInPage() {
  const demo = useDemo();
  const signIn = useSignIn();
  const form = useRef<HTMLFormElement>(null);
  const [name, setName] = useState<string | null>(null);
  const [password, setPassword] = useState<string | null>(null);
  const people = [...(demo.data?.people ?? [])].sort((a, b) => rank(a.id) - rank(b.id));
  const shownName = name ?? '';
  const shownPassword = password ?? demo.data?.password ?? '';
  return (
    <main className="sign-in">
      <div>
        <Logo />
        <h1>{t('whatChangedForThoseIt')}</h1>
        <p className="quiet">{t('ojoKeepsAnEyeOn')}</p>
        {people.length > 0 && (
          <>
            <h2 className="mt-4">{t('marismaMuseum')}</h2>
            <p className="quiet">{t('aMadeUpMuseumTo')}</p>
            <div className="people">
              {people.map((person) => (
                <button
                  key={person.id}
                  type="button"
                  aria-pressed={shownName === person.id}
                  onClick={() => {
                    setName(person.id);
                    form.current?.scrollIntoView({ block: 'nearest' });
                  }}
                  onDoubleClick={() => signIn.mutate({ name: person.id, password: shownPassword })}
                >
                  <strong>{person.name}</strong>
                  <small>
                    {person.title}
                    {person.role !== 'member' && `, ${roleName(person.role)}`}
                  </small>
                </button>
              ))}
            </div>
          </>
        )}
      </div>
      <Form
        ref={form}
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate({ name: shownName, password: shownPassword });
        }}
      >
        <h2>{t('signIn')}</h2>
        <Form.Group controlId="name">
          <Form.Label>{t('nameOrEmailAddress')}</Form.Label>
          <Form.Control
            autoComplete="username"
            required
            value={shownName}
            onChange={(event) => setName(event.target.value)}
          />
        </Form.Group>
        <Form.Group controlId="password">
          <Form.Label>{t('password')}</Form.Label>
          <Form.Control
            type="password"
            autoComplete="current-password"
            required
            value={shownPassword}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Form.Group>
        {signIn.error && <ProblemNote error={signIn.error} />}
        <Button type="submit" disabled={signIn.isPending}>
          {t('signIn')}
        </Button>
      </Form>
    </main>
  );
}

const rank = (id: string) => (ORDER.includes(id) ? ORDER.indexOf(id) : ORDER.length);
