import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { type GroupRow, groupSchema } from '../../../contract/wire/index.ts';
import { Ends, Refused, SendForm, TextField, useSending } from '../../forms/index.ts';
import {
  Combobox,
  Empty,
  Loaded,
  ProblemNote,
  useDraftKey,
  useNotice,
  useSettled,
  useViewer,
} from '../../parts/index.ts';
import { useAddGroup, useDropGroup, useGroupPreview, useGroups, useSaveGroup } from '../../queries/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/accounts.ts';
import { ComesTo } from './consequences.tsx';

/** Groups of people and of groups: who is in each, how many that comes to, and what names it. */
export function Groups() {
  const groups = useGroups();
  const [open, setOpen] = useState<string | null>(null);
  const onDone = () => setOpen(null);
  return (
    <section className="groups-page">
      {open === 'new' ? (
        <GroupEditor group={null} onDone={onDone} />
      ) : (
        <Button variant="outline-primary" size="sm" className="mt-3" onClick={() => setOpen('new')}>
          {t('newGroup')}
        </Button>
      )}
      <Loaded query={groups} what={t('theGroups')} rows={5}>
        {(rows) =>
          rows.length === 0 && open !== 'new' ? (
            <Empty title={t('noGroupYet')}>
              <p>{t('aGroupIsNamedOnce')}</p>
            </Empty>
          ) : (
            <ul className="plain-list group-rows">
              {rows.map((group) =>
                open === group.id ? (
                  <li key={`${group.id} ${group.seal}`}>
                    <GroupEditor group={group} onDone={onDone} />
                  </li>
                ) : (
                  <GroupLine key={group.id} group={group} onEdit={() => setOpen(group.id)} />
                ),
              )}
            </ul>
          )
        }
      </Loaded>
    </section>
  );
}

function GroupLine({ group, onEdit }: { group: GroupRow; onEdit: () => void }) {
  const { person, group: groupOf } = useViewer();
  const within = group.groups.map((id) => t('groupNamed', { name: groupOf(id)?.name ?? id }));
  return (
    <li className="group-row">
      <div>
        <strong>{group.name}</strong>{' '}
        <span className="quiet small">{t('inAll', { count: group.everybody.length })}</span>
        <div className="quiet">
          {phrases().and([...within, ...group.members.map(person)]) || <span className="fault">{t('nobodyIsIn')}</span>}
        </div>
        <div className="quiet small">
          {group.usedBy.length > 0 ? t('namedBy', { by: phrases().and(group.usedBy) }) : t('namedByNothing')}
        </div>
      </div>
      <Button variant="quiet" size="sm" aria-label={t('editGroup', { name: group.name })} onClick={onEdit}>
        {t('edit')}
      </Button>
    </li>
  );
}

function GroupEditor({ group, onDone }: { group: GroupRow | null; onDone: () => void }) {
  const notice = useNotice();
  const add = useAddGroup();
  const save = useSaveGroup(group?.id ?? '');
  const drop = useDropGroup(group?.id ?? '');
  const start = { name: group?.name ?? '', members: group?.members ?? [], groups: group?.groups ?? [] };
  const sending = useSending({
    shape: groupSchema,
    start,
    draft: useDraftKey(`group.${group?.id ?? 'new'}`),
    fieldOf: (path) => (path === 'name' ? path : null),
    send: async (read) => {
      if (group) await save.mutateAsync({ group: read, seal: group.seal });
      else await add.mutateAsync(read);
    },
    onSent: () => {
      notice({ words: t('groupIsKept') });
      onDone();
    },
  });
  const typed = useSettled(sending.form.watch());
  const isOther =
    group !== null && JSON.stringify([typed.members, typed.groups]) !== JSON.stringify([start.members, start.groups]);
  const preview = useGroupPreview(group?.id ?? '', isOther ? { ...typed, name: group.name } : null);
  const takeAway = () =>
    drop.mutate(undefined, {
      onSuccess: () => {
        notice({ words: t('groupIsGone', { name: group?.name ?? '' }) });
        onDone();
      },
    });
  return (
    <SendForm sending={sending} className="group-editor">
      <TextField sending={sending} name="name" label={t('nameOfGroup')} autoFocus />
      <Belonging
        members={sending.form.watch('members')}
        groups={sending.form.watch('groups')}
        self={group?.id ?? null}
        onMembers={(members) => sending.form.setValue('members', members, { shouldDirty: true })}
        onGroups={(groups) => sending.form.setValue('groups', groups, { shouldDirty: true })}
      />
      <ComesTo preview={preview} />
      <Refused sending={sending} />
      {drop.error && <ProblemNote error={drop.error} />}
      <Ends sending={sending} words={group ? t('keepIt') : t('makeTheGroup')} leave={t('leaveIt')} onLeave={onDone}>
        {group && (
          <Button variant="link" className="fault" disabled={drop.isPending} onClick={takeAway}>
            {t('takeGroupAway')}
          </Button>
        )}
      </Ends>
    </SendForm>
  );
}

interface BelongingProps {
  members: string[];
  groups: string[];
  self: string | null;
  onMembers: (members: string[]) => void;
  onGroups: (groups: string[]) => void;
}

/** Who belongs to a group, each to be taken out, and a box that finds whom to put in. */
function Belonging({ members, groups, self, onMembers, onGroups }: BelongingProps) {
  const { directory, person, group } = useViewer();
  const put = ([kind, id]: readonly ['person' | 'group', string]) =>
    kind === 'person' ? onMembers([...members, id]) : onGroups([...groups, id]);
  const offers = [
    ...directory.people
      .filter((one) => one.isActive && !members.includes(one.id))
      .map(({ id, name, title }) => ({ value: ['person', id] as const, name, kind: title })),
    ...directory.groups
      .filter((one) => one.id !== self && !groups.includes(one.id))
      .map(({ id, name }) => ({ value: ['group', id] as const, name, kind: t('aGroup') })),
  ];
  return (
    <div className="field">
      <p className="form-label mb-1">{t('whoIsIn')}</p>
      <ul className="plain-list belonging">
        {groups.map((id) => (
          <Belongs
            key={`group ${id}`}
            name={t('groupNamed', { name: group(id)?.name ?? id })}
            onRemove={() => onGroups(groups.filter((one) => one !== id))}
          />
        ))}
        {members.map((id) => (
          <Belongs key={id} name={person(id)} onRemove={() => onMembers(members.filter((one) => one !== id))} />
        ))}
      </ul>
      <Combobox label={t('putSomebodyIn')} offers={offers} onAdd={put} isEntered={false} />
    </div>
  );
}

const Belongs = ({ name, onRemove }: { name: string; onRemove: () => void }) => (
  <li>
    {name}{' '}
    <Button variant="link" size="sm" aria-label={t('takeOutNamed', { name })} onClick={onRemove}>
      {t('takeOut')}
    </Button>
  </li>
);
