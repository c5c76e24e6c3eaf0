import { XMLParser, XMLValidator } from 'fast-xml-parser';
import type { FileFault, Read } from './order';

type Node = Record<string, unknown>;

const MANY = ['PmtInf', 'CdtTrfTxInf'];
const parser = new XMLParser({
  ignoreAttributes: false,
  parseTagValue: false,
  parseAttributeValue: false,
  isArray: (name) => MANY.includes(name),
});

/** The bank's own reader of credit transfers (ISO 20022, pain.001.001.09). Sums and counts are checked against what is read. */
export function readPain(content: string): Read {
  const valid = XMLValidator.validate(content);
  if (valid !== true) return { faults: [{ line: valid.err.line, column: valid.err.col, what: valid.err.msg }] };
  const faults: FileFault[] = [];
  // A place in XML is a path; the position is that of the element's first mention.
  const fault = (element: string, what: string) => {
    const before = content.slice(0, Math.max(0, content.indexOf(`<${element}`)));
    faults.push({ line: before.split('\n').length, column: before.length - before.lastIndexOf('\n'), what: `${element}: ${what}` });
  };
  const document = at(parser.parse(content) as Node, 'Document');
  if (at(document, '@_xmlns') !== 'urn:iso:std:iso:20022:tech:xsd:pain.001.001.09') fault('Document', 'pain.001.001.09 is expected');
  const message = at(document, 'CstmrCdtTrfInitn') as Node | undefined;
  const header = at(message, 'GrpHdr') as Node | undefined;
  const batches = (at(message, 'PmtInf') as Node[] | undefined) ?? [];
  if (!header || !batches.length) {
    fault('CstmrCdtTrfInitn', 'a header and payments are expected');
    return { faults };
  }
  let payer: { bank: string; account: string } | null = null;
  const payments = batches.flatMap((batch) => {
    const bank = text(at(batch, 'DbtrAgt', 'FinInstnId', 'ClrSysMmbId', 'MmbId'));
    const account = text(at(batch, 'DbtrAcct', 'Id', 'Othr', 'Id'));
    if (!bank || !account) fault('Dbtr', 'the payer’s account is missing');
    if (payer && (payer.bank !== bank || payer.account !== account)) fault('DbtrAcct', 'one file pays from one account');
    payer = { bank, account };
    const effective = text(at(batch, 'ReqdExctnDt', 'Dt'));
    if (!/^\d{4}-\d\d-\d\d$/.test(effective) || Number.isNaN(Date.parse(effective))) fault('ReqdExctnDt', 'a date is expected');
    const read = ((at(batch, 'CdtTrfTxInf') as Node[] | undefined) ?? []).map((one) => {
      const amount = text(at(one, 'Amt', 'InstdAmt', '#text'));
      if (!/^\d{1,11}\.\d\d$/.test(amount)) fault('InstdAmt', 'an amount with two decimals is expected');
      const payment = {
        reference: text(at(one, 'PmtId', 'EndToEndId')),
        name: text(at(one, 'Cdtr', 'Nm')),
        bank: text(at(one, 'CdtrAgt', 'FinInstnId', 'ClrSysMmbId', 'MmbId')),
        account: text(at(one, 'CdtrAcct', 'Id', 'Othr', 'Id')),
        amount: Number(amount.replace('.', '')),
        effective,
      };
      for (const [key, element] of [
        ['reference', 'EndToEndId'],
        ['name', 'Nm'],
        ['bank', 'MmbId'],
        ['account', 'CdtrAcct'],
      ] as const)
        if (!payment[key]) fault(element, 'is missing');
      return payment;
    });
    if (Number(text(at(batch, 'NbOfTxs'))) !== read.length) fault('PmtInf', `${read.length} payments were read`);
    return read;
  });
  const sum = payments.reduce((all, { amount }) => all + amount, 0);
  if (Number(text(at(header, 'NbOfTxs'))) !== payments.length) fault('NbOfTxs', `${payments.length} payments were read`);
  if (Number(text(at(header, 'CtrlSum')).replace('.', '')) !== sum) fault('CtrlSum', 'the amounts come to another sum');
  if (new Set(payments.map(({ reference }) => reference)).size !== payments.length) fault('EndToEndId', 'a reference stands twice');
  const from = payer as { bank: string; account: string } | null;
  return faults.length || !from ? { faults } : { order: { payerBank: from.bank, payerAccount: from.account, payments } };
}

function at(node: unknown, ...path: string[]): unknown {
  return path.reduce<unknown>((here, key) => (here && typeof here === 'object' ? (here as Node)[key] : undefined), node);
}

const text = (value: unknown): string => (typeof value === 'string' ? value.trim() : '');
