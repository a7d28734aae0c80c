import type { Rights } from '../../../contract/wire/index.ts';
import type { Selector } from '../../../core/people/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { Radios, Said, selectorWords, useViewer } from '../../parts/index.ts';
import { t } from '../../words/access.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { PeopleEditor } from '../rules/editors/people-editor.tsx';

const WHATS = ['readers', 'adders', 'editors'] as const;

interface RightsProps {
  source: Source;
  rights: Rights;
  isFixed: boolean;
  onChange: (rights: Rights) => void;
}

/** *Read by …; added to by …; edited by …*, each part to be pressed. */
export const RightsSentence = ({ source, rights, isFixed, onChange }: RightsProps) => (
  <>
    {WHATS.map((what) => (
      <p key={what} className="rights">
        <span className="rights-what">{t(what)}</span>{' '}
        <Who
          what={what}
          source={source}
          named={rights[what]}
          isFixed={isFixed}
          onChange={(named) => onChange({ ...rights, [what]: named })}
        />
      </p>
    ))}
  </>
);

interface WhoProps {
  what: (typeof WHATS)[number];
  source: Source;
  named: Selector[] | null;
  isFixed: boolean;
  onChange: (named: Selector[] | null) => void;
}

function Who({ what, source, named, isFixed, onChange }: WhoProps) {
  const viewer = useViewer();
  const all = what === 'readers' ? t('everybody') : t('whoeverReads');
  const chooser = () => (
    <Radios
      name={`who-${what}`}
      options={[
        [true, all],
        [false, t('onlyThese')],
      ]}
      chosen={named === null}
      onChange={(isAll) => onChange(isAll ? null : [])}
    />
  );
  const label = t('whoOf', { what: t(what) });
  if (named === null)
    return (
      <Chip label={label} disabled={isFixed} editor={chooser}>
        {all}
      </Chip>
    );
  return (
    <>
      {named.map((selector) => (
        <Chip
          key={JSON.stringify(selector)}
          label={label}
          disabled={isFixed}
          onRemove={() => onChange(named.filter((one) => one !== selector))}
          editor={chooser}
        >
          <Said words={selectorWords(selector, viewer, source)} />
        </Chip>
      ))}
      {named.length === 0 && <span className="fault">{t('nobody')}</span>}
      {!isFixed && (
        <Chip
          label={t('addWho')}
          className="is-adding"
          editor={() => (
            <PeopleEditor
              source={source}
              sources={[source.id]}
              use="readers"
              chosen={named}
              onAdd={(selector) => onChange([...named, selector])}
            />
          )}
        >
          {t('add')}
        </Chip>
      )}
      {!isFixed && named.length === 0 && (
        <Chip label={label} className="is-adding" editor={chooser}>
          {t('orEverybody')}
        </Chip>
      )}
    </>
  );
}
