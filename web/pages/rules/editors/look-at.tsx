import { asKind } from '../../../../core/people/index.ts';
import { Form } from 'react-bootstrap';
import { type StateTest, isOpen, isKind } from '../../../../core/rules/index.ts';
import { Several, useViewer, useTitles } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { ConditionTree } from './condition-tree.tsx';
import { ItemsEditor } from './items-editor.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { t } from '../../../words/editors.ts';
import { phrases } from '../../../words/index.ts';

/** What the rule looks at: sources, folders or single items, and only those of which something is so. */
export function LookAt({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const { directory, folder, source: sourceOf } = useViewer();
  const { scope } = rule;
  const folders = directory.folders.filter((one) => one.source === source.id);
  const path = (id: string): string =>
    [folder(folder(id)?.parent ?? '')?.name, folder(id)?.name].filter(Boolean).join(' / ');
  const titles = useTitles(scope.items);
  const className = mark(edited, 'scope');
  const put = (part: Partial<typeof scope>) => onChange({ ...rule, scope: { ...scope, ...part } });
  const [, ...others] = scope.sources;
  return (
    <Part title={t('lookAt')} faults={faults} path={['scope']}>
      <Chip
        label={t('whichSource')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <Form.Select
              aria-label={t('source')}
              value={source.id}
              onChange={(event) =>
                onChange({
                  ...rule,
                  scope: { sources: [event.target.value], under: [], items: [], linked: false, where: { all: [] } },
                  when: { kinds: [], if: { all: [] }, burst: null },
                  due: null,
                  idle: null,
                  to: rule.to.filter((one) => !asKind(one, 'field') && !asKind(one, 'linked')),
                  message: { ...rule.message, show: [] },
                })
              }
            >
              {directory.sources.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Form.Select>
            <div>
              <p className="small quiet">{t('andAlsoFieldsThatAll')}</p>
              <Several
                name="also-sources"
                label={t('otherSources')}
                options={directory.sources.filter((one) => one.id !== source.id).map((one) => [one.id, one.name])}
                chosen={others}
                onChange={(also) => put({ sources: [source.id, ...also] })}
              />
            </div>
          </>
        )}
      >
        <strong>{phrases().and(scope.sources.map((id) => sourceOf(id)?.name ?? id))}</strong>
      </Chip>
      {source.kind === 'folders' && (
        <>
          {t('below')}
          <Chip
            label={t('belowWhichFolders')}
            className={className}
            disabled={isFixed}
            editor={() => (
              <Several
                name="under"
                label={t('folders')}
                options={folders.map((one) => [one.id, path(one.id)])}
                chosen={scope.under}
                onChange={(under) => put({ under })}
              />
            )}
          >
            {scope.under.length === 0 ? t('anyFolder') : <strong>{phrases().or(scope.under.map(path))}</strong>}
          </Chip>
        </>
      )}
      {scope.items.length > 0 && t('only')}
      {scope.items.length > 0 && (
        <Chip
          label={t('onlyTheseItems')}
          className={className}
          disabled={isFixed}
          onRemove={() => put({ items: [], linked: false })}
          editor={() => (
            <ItemsEditor
              sources={scope.sources}
              chosen={scope.items}
              isLinked={scope.linked}
              onChange={(items, linked) => put({ items, linked })}
            />
          )}
        >
          <strong>{phrases().or(scope.items.slice(0, 3).map((id) => titles[id] ?? '…'))}</strong>
          {scope.items.length > 3 && ` ${t('andMore', { items: scope.items.length - 3 })}`}
          {scope.linked && t('andWhatIsLinkedWithIt')}
        </Chip>
      )}
      {!isOpen(scope.where) && t('where')}
      <ConditionTree
        node={scope.where}
        source={source}
        className={className}
        isFixed={isFixed}
        isOfState
        onChange={(where) => put({ where: asAll(where as StateTest) })}
        addWords={(joiner) => (joiner ? t('addJoined', { joiner }) : t('addNarrow'))}
      />
    </Part>
  );
}

/** How a scope is written everywhere: even a single test stands in a group. */
const asAll = (test: StateTest): StateTest => (isKind(test, 'test') ? { all: [test] } : test);
