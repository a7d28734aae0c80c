import { Form } from 'react-bootstrap';
import { type StateTest, isOpen, isKind, type Rule } from '../../../../core/rules/index.ts';
import { Several, useViewer, useTitles } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { ConditionTree } from './condition-tree.tsx';
import { ItemsEditor } from './items-editor.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { t } from '../../../words/editors.ts';
import { phrases } from '../../../words/index.ts';

/** What the rule looks at: sources, folders or single items, and only those of which something is so. */
export function LookAt(props: PartProps) {
  const { rule, source, faults, edited, isFixed, onChange } = props;
  const { scope } = rule;
  return (
    <Part title={t('lookAt')} faults={faults} path={['scope']}>
      <SourceChip {...props} />
      {(source.kind === 'folders' || scope.under.length > 0) && (
        <>
          {t('below')}
          <FoldersChip {...props} />
        </>
      )}
      {scope.items.length > 0 && (
        <>
          {t('only')}
          <ItemsChip {...props} />
        </>
      )}
      {!isOpen(scope.where) && t('where')}
      <ConditionTree
        node={scope.where}
        source={source}
        className={mark(edited, 'scope')}
        isFixed={isFixed}
        isOfState
        onChange={(where) => onChange({ ...rule, scope: { ...scope, where: asAll(where as StateTest) } })}
        addWords={(joiner) => (joiner ? t('addJoined', { joiner }) : t('addNarrow'))}
      />
    </Part>
  );
}

/**
 * The rule looked at another source, with all that it says: what does not fit there is said at its part, for somebody
 * to choose anew or take off, and nothing goes unsaid.
 */
const turnedTo = (rule: Rule, source: string): Rule => ({ ...rule, scope: { ...rule.scope, sources: [source] } });

function SourceChip({ rule, source, edited, isFixed, onChange }: PartProps) {
  const { directory, source: sourceOf } = useViewer();
  const { scope } = rule;
  return (
    <Chip
      label={t('whichSource')}
      className={mark(edited, 'scope')}
      disabled={isFixed}
      editor={() => (
        <>
          <Form.Select
            aria-label={t('source')}
            value={source.id}
            onChange={(event) => onChange(turnedTo(rule, event.target.value))}
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
              chosen={scope.sources.slice(1)}
              onChange={(also) => onChange({ ...rule, scope: { ...scope, sources: [source.id, ...also] } })}
            />
          </div>
        </>
      )}
    >
      <strong>{phrases().and(scope.sources.map((id) => sourceOf(id)?.name ?? id))}</strong>
    </Chip>
  );
}

function FoldersChip({ rule, source, edited, isFixed, onChange }: PartProps) {
  const { directory, folder } = useViewer();
  const { under } = rule.scope;
  const path = (id: string): string =>
    [folder(folder(id)?.parent ?? '')?.name, folder(id)?.name].filter(Boolean).join(' / ');
  const offered = directory.folders.filter((one) => one.source === source.id || under.includes(one.id));
  return (
    <Chip
      label={t('belowWhichFolders')}
      className={mark(edited, 'scope')}
      disabled={isFixed}
      {...(source.kind === 'folders'
        ? {}
        : { onRemove: () => onChange({ ...rule, scope: { ...rule.scope, under: [] } }) })}
      editor={() => (
        <Several
          name="under"
          label={t('folders')}
          options={offered.map((one) => [one.id, path(one.id)])}
          chosen={under}
          onChange={(chosen) => onChange({ ...rule, scope: { ...rule.scope, under: chosen } })}
        />
      )}
    >
      {under.length === 0 ? t('anyFolder') : <strong>{phrases().or(under.map(path))}</strong>}
    </Chip>
  );
}

function ItemsChip({ rule, edited, isFixed, onChange }: PartProps) {
  const { scope } = rule;
  const titles = useTitles(scope.items);
  const put = (items: string[], linked: boolean) => onChange({ ...rule, scope: { ...scope, items, linked } });
  return (
    <Chip
      label={t('onlyTheseItems')}
      className={mark(edited, 'scope')}
      disabled={isFixed}
      onRemove={() => put([], false)}
      editor={() => <ItemsEditor sources={scope.sources} chosen={scope.items} isLinked={scope.linked} onChange={put} />}
    >
      <strong>{phrases().or(scope.items.slice(0, 3).map((id) => titles[id] ?? '…'))}</strong>
      {scope.items.length > 3 && ` ${t('andMore', { items: scope.items.length - 3 })}`}
      {scope.linked && t('andWhatIsLinkedWithIt')}
    </Chip>
  );
}

/** How a scope is written everywhere: even a single test stands in a group. */
const asAll = (test: StateTest): StateTest => (isKind(test, 'test') ? { all: [test] } : test);
