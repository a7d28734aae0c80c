import { useQueryClient } from '@tanstack/react-query';
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react';
import { Button, Toast, ToastContainer } from 'react-bootstrap';
import { refusalWords } from './states.tsx';
import { t } from '../words/parts.ts';

interface Notice {
  words: string;
  undo?: () => void;
}

const Context = createContext<(notice: Notice) => void>(() => undefined);

/** Says what has just been done; where it can be undone, for ten seconds. What fails, and is shown nowhere else, is said too. */
export const useNotice = () => useContext(Context);

export function Notices({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<(Notice & { number: number }) | null>(null);
  const show = useCallback(
    (notice: Notice) => setShown((last) => ({ ...notice, number: (last?.number ?? 0) + 1 })),
    [],
  );
  const client = useQueryClient();
  useEffect(
    () =>
      client.getMutationCache().subscribe((event) => {
        if (event.type === 'updated' && event.action.type === 'error' && !event.mutation.meta?.isShown)
          show({ words: refusalWords(event.action.error) });
      }),
    [client, show],
  );
  const close = useMemo(() => () => setShown(null), []);
  return (
    <Context.Provider value={show}>
      {children}
      <ToastContainer className="toast-container">
        {shown && (
          <Toast key={shown.number} onClose={close} delay={shown.undo ? 10_000 : 5000} autohide>
            <Toast.Body>
              {shown.words}
              {shown.undo && (
                <Button
                  variant="link"
                  onClick={() => {
                    shown.undo?.();
                    close();
                  }}
                >
                  {t('undo')}
                </Button>
              )}
            </Toast.Body>
          </Toast>
        )}
      </ToastContainer>
    </Context.Provider>
  );
}
