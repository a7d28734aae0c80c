import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { BodyOf } from '../../contract/routes.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** One's own calendars of a source. */
export const useCalendars = (source: string) =>
  useQuery({
    queryKey: keys.calendars(source),
    queryFn: () => call('calendars.list', { params: { source } }),
  });

function useCalendarAct<T, R>(source: string, act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: act,
    onSuccess: () => client.invalidateQueries({ queryKey: keys.calendars(source) }),
  });
}
/** Makes an address by which a calendar program asks for what is listed. */
export const useAddCalendar = (source: string) =>
  useCalendarAct(source, (body: BodyOf<'calendars.add'>) => call('calendars.add', { params: { source }, body }));
/** Ends such an address. */
export const useDropCalendar = (source: string) =>
  useCalendarAct(source, (id: string) => call('calendars.drop', { params: { id } }));
