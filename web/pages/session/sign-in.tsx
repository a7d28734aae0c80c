import { useEffect, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { z } from 'zod';
import { signInSchema } from '../../../contract/wire/index.ts';
import { Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import { Logo, roleName } from '../../parts/index.ts';
import { problemOf, useDemo, useSignIn, useWays } from '../../queries/index.ts';
import { t } from '../../words/session.ts';

const ORDER = ['ines', 'wren', 'mei', 'petra', 'tomas', 'noor', 'marisol'];

/** A code that nobody asked for yet is left out. */
const shape = z
  .object({ name: z.string(), password: z.string(), code: z.string() })
  .transform(({ code, ...rest }) => (code.trim() ? { ...rest, code } : rest))
  .pipe(signInSchema);

export function SignInPage() {
  const demo = useDemo();
  const ways = useWays();
  const signIn = useSignIn();
  const place = useRef<HTMLFormElement>(null);
  const [wantsCode, setWantsCode] = useState(false);
  const sending = useSending({
    start: { name: '', password: '', code: '' },
    shape,
    send: (body) =>
      signIn.mutateAsync(body).catch((error: unknown) => {
        if (problemOf(error).code === 'codeNeeded') setWantsCode(true);
        throw error;
      }),
  });
  const { setValue, watch, formState } = sending.form;
  const shared = demo.data?.password;
  const isOwn = formState.dirtyFields.password === true;
  useEffect(() => {
    // The made-up museum shares a password; what somebody types in its place stays.
    if (shared && !isOwn) setValue('password', shared);
  }, [shared, isOwn, setValue]);
  const name = watch('name');
  const choose = (id: string) => {
    setValue('name', id, { shouldValidate: formState.isSubmitted });
    place.current?.scrollIntoView({ block: 'nearest' });
  };
  const people = [...(demo.data?.people ?? [])].sort((a, b) => rank(a.id) - rank(b.id));
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
                  aria-pressed={name === person.id}
                  onClick={() => choose(person.id)}
                  onDoubleClick={() => sending.submit()}
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
      <SendForm sending={sending} place={place}>
        <h2>{t('signIn')}</h2>
        <TextField sending={sending} name="name" label={t('nameOrEmailAddress')} autoComplete="username" />
        <TextField
          sending={sending}
          name="password"
          label={t('password')}
          type="password"
          autoComplete="current-password"
        />
        {wantsCode && (
          <TextField
            sending={sending}
            name="code"
            label={t('code')}
            hint={t('codeHint')}
            autoComplete="one-time-code"
            autoFocus
          />
        )}
        <Refused sending={sending} />
        <Button type="submit" disabled={sending.isPending}>
          {t('signIn')}
        </Button>
        {ways.data?.house && (
          <p className="mt-3">
            <a href="/sign-in/house">{t('byTheHouse', { name: ways.data.house })}</a>
          </p>
        )}
      </SendForm>
    </main>
  );
}

const rank = (id: string) => (ORDER.includes(id) ? ORDER.indexOf(id) : ORDER.length);
