import { Empty, Loaded, Time } from '../../parts/index.ts';
import { useHooksTaken } from '../../queries/index.ts';
import { t } from '../../words/stand-ins.ts';

/** What the stand-in for a machine was told, as it came. */
export function HooksTaken() {
  const taken = useHooksTaken();
  return (
    <Loaded query={taken} what={t('whatTheMachineTook')}>
      {(known) =>
        known.length === 0 ? (
          <Empty title={t('nothingTakenYet')}>
            <p>{t('theFirstEvent')}</p>
          </Empty>
        ) : (
          <ol className="plain-list">
            {known.map((hook) => (
              <li key={hook.id}>
                <details>
                  <summary>
                    <Time at={hook.receivedAt} full /> <span className="mono">{hook.path}</span>
                  </summary>
                  <pre className="mail-source">{hook.body}</pre>
                </details>
              </li>
            ))}
          </ol>
        )
      }
    </Loaded>
  );
}
