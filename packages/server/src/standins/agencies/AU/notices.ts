import { XMLBuilder } from 'fast-xml-parser';

/** An answer on a stapled fund, or a notice on somebody's tax details, as the stand-in keeps it. */
export interface StandInNotice {
  form: 'STAPLED' | 'STSL' | 'STSL-END';
  givenName: string;
  familyName: string;
  number: string;
  code?: string;
  issued: string;
  from: string;
  fund?: { usi: string; memberNumber: string };
}

/** The file of answers and notices as the agency gives it out; its elements are our own. */
export function writeNotices(employer: string, notices: readonly StandInNotice[]): string {
  const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true, suppressEmptyNode: false });
  const tree = {
    EmployeeNotices: {
      Notice: notices.map((one) => ({
        Kind: one.form,
        EmployerNumber: employer,
        GivenName: one.givenName,
        FamilyName: one.familyName,
        TaxFileNumber: one.number,
        PayrollNumber: one.code ?? '',
        Issued: one.issued,
        From: one.from,
        ...(one.fund ? { Fund: { Identifier: one.fund.usi, MemberNumber: one.fund.memberNumber } } : {}),
      })),
    },
  };
  return `<?xml version="1.0" encoding="UTF-8"?>\n${String(builder.build(tree))}`;
}
