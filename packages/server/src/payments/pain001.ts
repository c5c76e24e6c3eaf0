import { decimalOf, type BankPayment, type PaymentFile } from '@woodruff/core';
import { create } from 'xmlbuilder2';

/** Purposes of credit transfers (ISO 20022, external code list of purposes). */
const PURPOSE: Record<BankPayment['purpose'], string> = { pay: 'SALA', payee: 'SUPP', support: 'BECH', trial: 'SALA' };

/**
 * A credit transfer (ISO 20022, pain.001.001.09), valid against the schema in `testing/pain.001.001.09.xsd`. Trial
 * payments of nothing have no place in it and are left out.
 */
export function writePain(file: PaymentFile, { currency, clearing }: { currency: string; clearing: string }): string {
  const payments = file.payments.filter(({ amount }) => amount > 0);
  const sum = decimalOf(payments.reduce((all, { amount }) => all + amount, 0));
  const id = `W${String(file.number).padStart(9, '0')}`;
  const message = create({ version: '1.0', encoding: 'UTF-8' })
    .ele('urn:iso:std:iso:20022:tech:xsd:pain.001.001.09', 'Document')
    .ele('CstmrCdtTrfInitn');
  const header = message.ele('GrpHdr');
  header.ele('MsgId').txt(id);
  header.ele('CreDtTm').txt(`${file.made.on}T${file.made.at}:00`);
  header.ele('NbOfTxs').txt(String(payments.length));
  header.ele('CtrlSum').txt(sum);
  const initiator = header.ele('InitgPty');
  initiator.ele('Nm').txt(within(file.payer.name, 140));
  if (file.payer.number) initiator.ele('Id').ele('OrgId').ele('Othr').ele('Id').txt(within(file.payer.number, 35));
  const batch = message.ele('PmtInf');
  batch.ele('PmtInfId').txt(`${id}-1`);
  batch.ele('PmtMtd').txt('TRF');
  batch.ele('NbOfTxs').txt(String(payments.length));
  batch.ele('CtrlSum').txt(sum);
  batch.ele('ReqdExctnDt').ele('Dt').txt(file.effective);
  batch.ele('Dbtr').ele('Nm').txt(within(file.payer.name, 140));
  batch.ele('DbtrAcct').ele('Id').ele('Othr').ele('Id').txt(file.payer.account);
  const agent = batch.ele('DbtrAgt').ele('FinInstnId').ele('ClrSysMmbId');
  agent.ele('ClrSysId').ele('Cd').txt(clearing);
  agent.ele('MmbId').txt(file.payer.bank);
  for (const payment of payments) {
    const transfer = batch.ele('CdtTrfTxInf');
    transfer.ele('PmtId').ele('EndToEndId').txt(payment.reference);
    transfer.ele('Amt').ele('InstdAmt', { Ccy: currency }).txt(decimalOf(payment.amount));
    const receiving = transfer.ele('CdtrAgt').ele('FinInstnId').ele('ClrSysMmbId');
    receiving.ele('ClrSysId').ele('Cd').txt(clearing);
    receiving.ele('MmbId').txt(payment.bank);
    transfer.ele('Cdtr').ele('Nm').txt(within(payment.name, 140));
    transfer.ele('CdtrAcct').ele('Id').ele('Othr').ele('Id').txt(payment.account);
    transfer.ele('Purp').ele('Cd').txt(PURPOSE[payment.purpose]);
    const about = payment.support ? `Case ${payment.support.caseNumber}, pay of ${payment.support.payDate}` : payment.about;
    if (about) transfer.ele('RmtInf').ele('Ustrd').txt(within(about, 140));
  }
  return message.end({ prettyPrint: true });
}

/** Cut to length; what XML cannot hold is left out. */
const within = (text: string, length: number): string => text.replace(/[^\x20-\uD7FF\uE000-\uFFFD]/g, ' ').slice(0, length);
