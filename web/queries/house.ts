import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { BodyOf } from '../../contract/routes.ts';
import type { Eyed } from '../../core/rules/index.ts';
import type { WordingRow } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** How the house speaks, and the wordings that rules share, stand in the directory: it is read anew once one is written. */
function useHouseAct<V, A>(act: (values: V) => Promise<A>) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: act,
    onSuccess: () => client.invalidateQueries({ queryKey: keys.directory }),
  });
}
export const useSaveWording = () =>
  useHouseAct(({ id, ...body }: WordingRow) =>
    id ? call('wordings.save', { params: { id }, body }) : call('wordings.create', { body }),
  );
export const useDropWording = () => useHouseAct((id: string) => call('wordings.drop', { params: { id } }));
export const useSavePaper = () =>
  useHouseAct((paper: BodyOf<'house.savePaper'>) => call('house.savePaper', { body: paper }));
/** Which rules a second pair of eyes looks at from now on. */
export const useSaveEyes = () => useHouseAct((kinds: Eyed[]) => call('house.saveEyes', { body: { kinds } }));
export const useSaveSender = () =>
  useHouseAct(({ id, ...body }: BodyOf<'senders.create'> & { id: string | null }) =>
    id === null ? call('senders.create', { body }) : call('senders.save', { params: { id }, body }),
  );
export const useDropSender = () => useHouseAct((id: string) => call('senders.drop', { params: { id } }));
