import { useMemo, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { type Account, type AccountPage, accountSchema } from '../../../contract/wire/index.ts';
import { Ends, Refused, SelectField, SendForm, type Sending, TextField, useSending } from '../../forms/index.ts';
import {
  CopyLink,
  Loaded,
  ProblemNote,
  Radios,
  roleName,
  Several,
  Sheet,
  useDraftKey,
  useNotice,
  useSettled,
  useViewer,
} from '../../parts/index.ts';
import {
  useAccount,
  useAccountPreview,
  useAddAccount,
  useDropTheirSecond,
  useSaveAccount,
  useWelcome,
} from '../../queries/index.ts';
import { localeNames, zoneNames } from './locale-names.ts';
import { ComesTo } from './consequences.tsx';
import { t } from '../../words/accounts.ts';

/** An account as it is typed: what is left empty is nothing. */
const accountShape = z
  .object({
    ...accountSchema.shape,
    name: z.string(),
    title: z.string(),
    email: z.string().transform((text) => text.trim() || null),
    zone: z.string(),
    locale: z.string(),
    manager: z.string().transform((id) => id || null),
  })
  .pipe(accountSchema);
type Typed = z.input<typeof accountShape>;

const typedOf = ({ email, manager, ...account }: Account): Typed => ({
  ...account,
  email: email ?? '',
  manager: manager ?? '',
});

/** Somebody new; once they are there, the page on which they choose a password is shown, to be given to them. */
export function AddAccount({ onDone }: { onDone: () => void }) {
  const { me } = useViewer();
  const add = useAddAccount();
  const [link, setLink] = useState<string | null>(null);
  const sending = useSending({
    shape: accountShape,
    start: {
      name: '',
      title: '',
      email: '',
      zone: me.zone,
      locale: me.locale,
      manager: '',
      role: 'member',
      isActive: true,
      looksAfter: [],
      groups: [],
    },
    draft: useDraftKey('account.new'),
    send: (account) => add.mutateAsync(account),
    onSent: (made) => setLink(made.link),
  });
  if (link !== null) return <Welcome link={link} onDone={onDone} />;
  return (
    <SendForm sending={sending} className="account-form">
      <AccountFields sending={sending} />
      <Refused sending={sending} />
      <Ends sending={sending} words={t('addThem')} leave={t('leaveIt')} onLeave={onDone} />
    </SendForm>
  );
}

/** The address of the page on which somebody chooses their password; it is seen here once. */
const Welcome = ({ link, onDone }: { link: string; onDone: () => void }) => (
  <>
    <p className="mt-3">{t('giveThemThisPage')}</p>
    <CopyLink link={link} label={t('thePage')} isFirst />
    <Button variant="quiet" className="mt-3" onClick={onDone}>
      {t('done')}
    </Button>
  </>
);

/** Somebody's account in the sheet, to be edited. */
export function EditAccount({ id }: { id: string }) {
  const { person } = useViewer();
  const navigate = useNavigate();
  const account = useAccount(id);
  const onDone = () => void navigate(`/people/${encodeURIComponent(id)}`);
  return (
    <Sheet label={t('accountOf', { name: person(id) })} name={`account ${id}`} isForm onClose={onDone}>
      <h2>{person(id)}</h2>
      <Loaded query={account} what={t('theAccount')} rows={6}>
        {(page) => <Edit key={page.seal} page={page} onDone={onDone} />}
      </Loaded>
    </Sheet>
  );
}

function Edit({ page, onDone }: { page: AccountPage; onDone: () => void }) {
  const notice = useNotice();
  const { id, account, seal, owns } = page;
  const save = useSaveAccount(id);
  const sending = useSending({
    shape: accountShape,
    start: typedOf(account),
    draft: useDraftKey(`account.${id}`),
    send: (next) => save.mutateAsync({ account: next, seal }),
    onSent: () => {
      notice({ words: t('isKept', { name: account.name }) });
      onDone();
    },
  });
  const read = accountShape.safeParse(useSettled(sending.form.watch()));
  const isOther =
    read.success &&
    (['isActive', 'groups'] as const).some((part) => JSON.stringify(read.data[part]) !== JSON.stringify(account[part]));
  const preview = useAccountPreview(id, isOther ? read.data : null);
  const isActive = sending.form.watch('isActive');
  return (
    <>
      <SendForm sending={sending} className="account-form">
        <AccountFields sending={sending} self={id} />
        <Form.Check
          id="account-active"
          label={t('isHere')}
          checked={isActive}
          onChange={(event) => sending.form.setValue('isActive', event.target.checked, { shouldDirty: true })}
        />
        {sending.form.formState.errors.isActive?.message && (
          <p className="fault small" role="alert">
            {String(sending.form.formState.errors.isActive.message)}
          </p>
        )}
        {!isActive && <p className="small quiet">{t('whoLeavesIsSignedOut', { owns })}</p>}
        <ComesTo preview={preview} />
        <Refused sending={sending} />
        <Ends sending={sending} words={t('keepIt')} leave={t('leaveIt')} onLeave={onDone} />
      </SendForm>
      {account.isActive && <NewPassword id={id} />}
      {page.hasSecond && <DropSecond id={id} />}
    </>
  );
}

/** Somebody who cannot sign in any more is given a page on which they choose another password. */
function NewPassword({ id }: { id: string }) {
  const welcome = useWelcome(id);
  const [isOpen, setOpen] = useState(false);
  if (isOpen && welcome.data) return <Welcome link={welcome.data.link} onDone={() => setOpen(false)} />;
  return (
    <section className="mt-4">
      <h3>{t('password')}</h3>
      <p className="small quiet">{t('aPageToChoose')}</p>
      {welcome.error && <ProblemNote error={welcome.error} />}
      <Button
        variant="outline-primary"
        size="sm"
        disabled={welcome.isPending}
        onClick={() => welcome.mutate(undefined, { onSuccess: () => setOpen(true) })}
      >
        {t('makeThePage')}
      </Button>
    </section>
  );
}

/** Somebody who has lost their telephone and their spare codes signs in by the password alone, until they put one on anew. */
function DropSecond({ id }: { id: string }) {
  const drop = useDropTheirSecond(id);
  const notice = useNotice();
  return (
    <section className="mt-4">
      <h3>{t('secondFactor')}</h3>
      <p className="small quiet">{t('whereItIsLost')}</p>
      {drop.error && <ProblemNote error={drop.error} />}
      <Button
        variant="outline-primary"
        size="sm"
        disabled={drop.isPending}
        onClick={() => drop.mutate(undefined, { onSuccess: () => notice({ words: t('secondIsOff') }) })}
      >
        {t('takeItOff')}
      </Button>
    </section>
  );
}

function AccountFields({ sending, self }: { sending: Sending<Typed>; self?: string }) {
  const { directory } = useViewer();
  const { form } = sending;
  const [role, locale, zone] = [form.watch('role'), form.watch('locale'), form.watch('zone')];
  const people = directory.people.filter((one) => one.isActive && one.id !== self);
  const zones = useMemo(() => zoneNames(zone), [zone]);
  const roleFault = form.formState.errors.role?.message;
  return (
    <>
      <TextField sending={sending} name="name" label={t('name')} />
      <TextField sending={sending} name="title" label={t('title')} hint={t('whatTheyDoHere')} />
      <TextField sending={sending} name="email" label={t('email')} type="email" hint={t('theySignInWithIt')} />
      <div className="two-fields">
        <SelectField sending={sending} name="locale" label={t('language')} options={localeNames(locale)} />
        <SelectField sending={sending} name="zone" label={t('zone')} options={zones} />
      </div>
      <SelectField
        sending={sending}
        name="manager"
        label={t('manager')}
        empty={t('nobody')}
        options={people.map(({ id, name }) => [id, name] as const)}
      />
      <fieldset className="choices">
        <legend className="form-label">{t('whatTheyMay')}</legend>
        <Radios
          name="role"
          options={(['member', 'coordinator', 'steward'] as const).map(
            (one) => [one, `${roleName(one)}: ${t(`may.${one}`)}`] as const,
          )}
          chosen={role}
          onChange={(next) => form.setValue('role', next, { shouldDirty: true })}
        />
        {roleFault && (
          <p className="fault small" role="alert">
            {String(roleFault)}
          </p>
        )}
      </fieldset>
      {role === 'coordinator' && (
        <Ticked
          sending={sending}
          name="looksAfter"
          label={t('looksAfter')}
          hint={t('thoseNobodyIsNamedFor')}
          options={directory.sources.flatMap(({ id, name, sheetOf }) => (sheetOf ? [] : [[id, name]]))}
        />
      )}
      <Ticked
        sending={sending}
        name="groups"
        label={t('inGroups')}
        options={directory.groups.map(({ id, name }) => [id, name])}
      />
    </>
  );
}

interface TickedProps {
  sending: Sending<Typed>;
  name: 'looksAfter' | 'groups';
  label: string;
  hint?: string;
  options: [string, string][];
}

const Ticked = ({ sending, name, label, hint, options }: TickedProps) =>
  options.length === 0 ? null : (
    <div className="field">
      <p className="form-label mb-1">{label}</p>
      <Several
        name={name}
        label={label}
        options={options}
        chosen={sending.form.watch(name)}
        onChange={(chosen) => sending.form.setValue(name, chosen, { shouldDirty: true })}
      />
      {hint && <p className="small quiet">{hint}</p>}
    </div>
  );
