import {
  accountMapSchema,
  accountRuleSchema,
  fundingSchema,
  journalFileQuery,
  journalPreviewSchema,
  journalRange,
  journalSchema,
  tieOutsSchema,
} from '../journal';
import { at, nothing, type Endpoint } from './endpoint';

/** Of the books: the journal, what must agree, and what must be in the account. */
export const journalEndpoints = {
  journal: {
    method: 'get',
    path: `${at}/journal`,
    needs: 'read',
    summary: 'Journal entries with their lines',
    query: journalRange,
    answer: journalSchema,
  },
  journalFile: {
    method: 'get',
    path: `${at}/journal/file`,
    needs: 'export',
    summary: 'The journal as CSV, XLSX, JSON, or plain-text accounting',
    query: journalFileQuery,
    file: 'application/octet-stream',
  },
  accountMap: {
    method: 'get',
    path: `${at}/journal/accounts`,
    needs: 'read',
    summary: 'Where what is posted goes',
    answer: accountMapSchema,
  },
  setAccountRule: {
    method: 'put',
    path: `${at}/journal/accounts`,
    needs: 'administer',
    summary: 'Where something is posted from now on',
    body: accountRuleSchema,
    answer: nothing,
  },
  journalPreview: {
    method: 'get',
    path: `${at}/pay-runs/:id/journal`,
    needs: 'read',
    summary: 'What a run would post, or has posted, to the journal',
    answer: journalPreviewSchema,
  },
  tieOuts: {
    method: 'get',
    path: `${at}/tie-outs`,
    needs: 'read',
    summary: 'Pairs that must agree, with what of them differs',
    answer: tieOutsSchema,
  },
  funding: {
    method: 'get',
    path: `${at}/payments/funding`,
    needs: 'read',
    summary: 'What must be in the account, thirty days ahead',
    answer: fundingSchema,
  },
} as const satisfies Record<string, Endpoint>;
