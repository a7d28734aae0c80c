import { useEffect, useState } from 'react';
import {
  type DefaultValues,
  type FieldErrors,
  type FieldValues,
  type Path,
  type ResolverResult,
  set,
  type UseFormReturn,
  useForm,
} from 'react-hook-form';
import type { z } from 'zod';
import type { FaultAt } from '../../contract/problems.ts';
import { forgetDraft, goToUnread, ontoStart, readDraft, writeDraft } from '../parts/index.ts';
import { problemOf } from '../queries/index.ts';
import { locale } from '../words/index.ts';

interface SendingParts<S extends z.ZodType<unknown, FieldValues>, A> {
  /** What is sent, as the contract has it, so that a form refuses just what the server would. */
  shape: S;
  /** What stands in the form at first. */
  start: z.input<S>;
  /** Sends it; rejects with what stood against it. */
  send: (read: z.output<S>) => Promise<A>;
  onSent?: (answer: A) => void;
  /** Under what is kept in this browser what is typed, until it is sent or given up; without it nothing is. */
  draft?: string;
  /** The form's name for the field that a fault of the server's is about; `null` where it has none. */
  fieldOf?: (path: string) => string | null;
}

export interface Sending<V extends FieldValues> {
  form: UseFormReturn<V, unknown, FieldValues>;
  submit: (event?: React.BaseSyntheticEvent) => void;
  /** Why the server refused it, as far as that stands at no field. */
  refusal: unknown;
  isPending: boolean;
  /** What stands in it was typed before, and not sent then. */
  isFromBefore: boolean;
  /** Gives up what was typed: the form is as it was at first. */
  giveUp: () => void;
}

/**
 * The one pattern of all forms. What is typed stays until it has been sent. Sent is what the check reads; what it, or the
 * server, finds wrong stands in words at its field, the first of them focused, and all else above the buttons.
 */
export function useSending<S extends z.ZodType<unknown, FieldValues>, A>(
  parts: SendingParts<S, A>,
): Sending<z.input<S>> {
  const { shape, start, send, onSent, draft, fieldOf = (path) => (path in (start as object) ? path : null) } = parts;
  const [refusal, setRefusal] = useState<unknown>(null);
  const typed = useTypedBefore(draft, start);
  const form = useForm<z.input<S>, unknown, { read: z.output<S> }>({
    defaultValues: (typed.before ?? start) as DefaultValues<z.input<S>>,
    resolver: async (values): Promise<ResolverResult<z.input<S>, { read: z.output<S> }>> => {
      const read = shape.safeParse(values);
      return read.success
        ? { values: { read: read.data }, errors: {} }
        : { values: {}, errors: await errorsOf<z.input<S>>(read.error, shape) };
    },
  });
  /** Puts what the server refused at the fields that it is about; whether that is all it said. */
  const place = async (error: unknown): Promise<boolean> => {
    const faults = problemOf(error).faults ?? [];
    const known = faults.flatMap((fault) => {
      const name = fieldOf(fault.path);
      return name === null ? [] : [{ fault, name }];
    });
    for (const [at, { fault, name }] of known.entries())
      form.setError(name as Path<z.input<S>>, await errorOf(fault), { shouldFocus: at === 0 });
    return faults.length > 0 && known.length === faults.length;
  };
  useKeptTyping(form, draft, start);
  const submit = form.handleSubmit(async ({ read }) => {
    setRefusal(null);
    try {
      const answer = await send(read);
      typed.forget();
      onSent?.(answer);
    } catch (error) {
      if (!(await place(error))) setRefusal(error);
    }
  });
  return {
    form, // What fails before anything is sent, as the words that a fault needs, is refused in words too.
    submit: (event) => {
      event?.preventDefault();
      const place = event?.currentTarget;
      if (!(place instanceof HTMLElement && goToUnread(place))) void submit(event).catch(setRefusal);
    },
    refusal,
    isPending: form.formState.isSubmitting,
    isFromBefore: typed.isFromBefore,
    giveUp: () => {
      form.reset(start as z.input<S>);
      setRefusal(null);
      typed.forget();
    },
  };
}

/** What was typed into the form before and not sent, as it stands on what the form begins with now. */
function useTypedBefore<V extends FieldValues>(draft: string | undefined, start: V) {
  const [before] = useState(() => {
    const found = draft === undefined ? null : readDraft<V>(draft);
    return found && ontoStart(found, start);
  });
  const [isFromBefore, setFromBefore] = useState(before !== null);
  const forget = () => {
    if (draft !== undefined) forgetDraft(draft);
    setFromBefore(false);
  };
  return { before, isFromBefore, forget };
}

/** Keeps what is typed as it is typed; what is back where it began is no longer kept. */
function useKeptTyping<V extends FieldValues>(
  form: UseFormReturn<V, unknown, FieldValues>,
  draft: string | undefined,
  start: V,
) {
  const base = JSON.stringify(start);
  useEffect(() => {
    if (draft === undefined) return;
    const { unsubscribe } = form.watch((values) => {
      if (JSON.stringify(values) === base) forgetDraft(draft);
      else writeDraft(draft, { base, value: values });
    });
    return unsubscribe;
  }, [form, draft, base]);
}

async function errorOf(fault: FaultAt): Promise<{ type: string; message: string }> {
  const { faultWords } = await import('../../contract/words/faults.ts');
  return { type: fault.code, message: faultWords(fault, locale()) };
}

/** Faults as the form keeps them; what is wrong with the whole stands at its root. */
async function errorsOf<V extends FieldValues>(error: z.ZodError, shape: z.ZodType): Promise<FieldErrors<V>> {
  const { schemaFaults } = await import('../../contract/documents/index.ts');
  const errors = {};
  for (const fault of schemaFaults(error, shape)) set(errors, fault.path || 'root', await errorOf(fault));
  return errors;
}
