import { create } from 'xmlbuilder2';

export interface Movement {
  entry: string;
  reference: string;
  /** Minor units; credits of the account are more than nothing. */
  amount: number;
  name: string;
  code: string;
  words: string;
}

const decimal = (minor: number): string => (Math.abs(minor) / 100).toFixed(2);
const side = (minor: number): string => (minor < 0 ? 'DBIT' : 'CRDT');

/** A day's statement of an account (ISO 20022, camt.053.001.08): the balance before and after, and each movement. */
export function statementOf(
  account: { bank: string; account: string; currency: string },
  day: string,
  opening: number,
  movements: readonly Movement[],
): string {
  const closing = movements.reduce((sum, { amount }) => sum + amount, opening);
  const root = create({ version: '1.0', encoding: 'UTF-8' })
    .ele('urn:iso:std:iso:20022:tech:xsd:camt.053.001.08', 'Document')
    .ele('BkToCstmrStmt');
  const id = `${account.bank}-${account.account.slice(-4)}-${day}`;
  root.ele('GrpHdr').ele('MsgId').txt(id).up().ele('CreDtTm').txt(`${day}T23:00:00`);
  const statement = root.ele('Stmt');
  statement.ele('Id').txt(id);
  statement.ele('CreDtTm').txt(`${day}T23:00:00`);
  const holder = statement.ele('Acct');
  holder.ele('Id').ele('Othr').ele('Id').txt(account.account);
  holder.ele('Ccy').txt(account.currency);
  holder.ele('Svcr').ele('FinInstnId').ele('ClrSysMmbId').ele('MmbId').txt(account.bank);
  for (const [code, amount] of [
    ['OPBD', opening],
    ['CLBD', closing],
  ] as const) {
    const balance = statement.ele('Bal');
    balance.ele('Tp').ele('CdOrPrtry').ele('Cd').txt(code);
    balance.ele('Amt', { Ccy: account.currency }).txt(decimal(amount));
    balance.ele('CdtDbtInd').txt(side(amount));
    balance.ele('Dt').ele('Dt').txt(day);
  }
  for (const movement of movements) {
    const entry = statement.ele('Ntry');
    entry.ele('NtryRef').txt(movement.entry);
    entry.ele('Amt', { Ccy: account.currency }).txt(decimal(movement.amount));
    entry.ele('CdtDbtInd').txt(side(movement.amount));
    entry.ele('Sts').ele('Cd').txt('BOOK');
    entry.ele('BookgDt').ele('Dt').txt(day);
    entry
      .ele('BkTxCd')
      .ele('Prtry')
      .ele('Cd')
      .txt(movement.code ? 'RETURN' : 'CREDIT TRANSFER');
    const details = entry.ele('NtryDtls').ele('TxDtls');
    details
      .ele('Refs')
      .ele('EndToEndId')
      .txt(movement.reference || 'NOTPROVIDED');
    details.ele('Amt', { Ccy: account.currency }).txt(decimal(movement.amount));
    details.ele('CdtDbtInd').txt(side(movement.amount));
    if (movement.name) details.ele('RltdPties').ele('Cdtr').ele('Pty').ele('Nm').txt(movement.name);
    if (movement.code) {
      const returned = details.ele('RtrInf');
      returned.ele('Rsn').ele('Prtry').txt(movement.code);
      if (movement.words) returned.ele('AddtlInf').txt(movement.words);
    }
  }
  return root.end({ prettyPrint: true });
}
