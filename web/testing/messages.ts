import type { MessageRow } from '../../contract/wire/index.ts';

/** A message as the inbox lists it, of one item whose status changed. */
export function messageOf(id: string, more: Partial<MessageRow> = {}, title = id): MessageRow {
  return {
    id,
    at: '2026-03-04T09:00:00.000Z',
    form: 'single',
    urgency: 'important',
    subject: `${title}: Status On view`,
    content: {
      form: 'single',
      headline: `${title}: Status On view`,
      when: '10:00',
      lead: '',
      entries: [
        {
          item: { id: `item-${id}`, title, source: 'loans', sourceName: 'Loan agreements', folder: [] },
          urgency: 'important',
          rules: [{ id: 'on-view', name: 'Loan goes on view' }],
          headline: `${title}: Status On view`,
          kind: 'changed',
          notes: [],
          fields: [{ id: 'status', label: 'Status', before: 'Agreed', after: 'On view' }],
          steps: [],
          isBack: false,
          show: [],
          doNow: [],
          why: [['you are ', { strong: 'the item’s Registrar' }]],
        },
      ],
    },
    readAt: null,
    ...more,
  };
}
