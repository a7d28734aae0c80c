import { Said, useViewer, selectorWords } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { mark, Part, type PartProps } from './part.tsx';
import { PeopleEditor } from './people-editor.tsx';
import { t } from '../../../words/editors.ts';

/** Whose changes count. Nobody does what a date or a standstill brings about. */
export function CausedBy({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const viewer = useViewer();
  const className = mark(edited, 'by');
  if (!rule.when && rule.by.only.length + rule.by.except.length === 0) return null;
  const list = (part: 'only' | 'except') => (
    <>
      {rule.by[part].map((selector, at) => (
        <Chip
          key={JSON.stringify(selector)}
          label={part === 'only' ? t('onlyBy') : t('butNotBy')}
          className={className}
          disabled={isFixed}
          onRemove={() =>
            onChange({ ...rule, by: { ...rule.by, [part]: rule.by[part].filter((_, index) => index !== at) } })
          }
          editor={() => (
            <p className="quiet">
              {t('changesByThem')} {part === 'only' ? t('areCaught') : t('areLeftOut')}.
            </p>
          )}
        >
          <Said words={selectorWords(selector, viewer, source)} />
        </Chip>
      ))}
      {!isFixed && (
        <Chip
          label={part === 'only' ? t('onlyBySomebody') : t('butNotBySomebody')}
          className="is-adding"
          editor={() => (
            <PeopleEditor
              use="actors"
              sources={rule.scope.sources}
              source={source}
              chosen={rule.by[part]}
              onAdd={(selector) => onChange({ ...rule, by: { ...rule.by, [part]: [...rule.by[part], selector] } })}
            />
          )}
        >
          {part === 'only' ? t('onlyBy2') : t('butNotBy2')}
        </Chip>
      )}
    </>
  );
  return (
    <Part title={t('causedBy')} faults={faults} path={['by']}>
      {rule.by.only.length === 0 && <span>{t('anyone')}</span>}
      {list('only')}
      {rule.by.except.length > 0 && t('butNot')}
      {list('except')}
    </Part>
  );
}
