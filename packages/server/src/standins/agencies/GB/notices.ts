import { XMLBuilder } from 'fast-xml-parser';

/** A notice as the stand-in keeps it. */
export interface StandInNotice {
  form: 'P6' | 'P9' | 'SL1' | 'SL2' | 'PGL1' | 'PGL2';
  givenName: string;
  familyName: string;
  number: string;
  code?: string;
  issued: string;
  from: string;
  taxCode?: string;
  alone?: boolean;
  previous?: { year: string; pay: string; tax: string };
  plan?: string;
}

/** The file of notices as the agency gives it out; its elements are from memory and unconfirmed. */
export function writeNotices(employer: string, notices: readonly StandInNotice[]): string {
  const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true, suppressEmptyNode: false });
  const tree = {
    CodingNotices: {
      '@xmlns': 'http://www.govtalk.gov.uk/taxation/PAYE/notices',
      Notice: notices.map((one) => ({
        FormType: one.form,
        EmployerRef: employer,
        Name: { Fore: one.givenName, Sur: one.familyName },
        NINO: one.number,
        WorksNumber: one.code ?? '',
        IssueDate: one.issued,
        EffectiveDate: one.from,
        ...(one.taxCode
          ? {
              CodingUpdate: {
                TaxCode: { ...(one.alone ? { '@Week1Month1': 'Y' } : {}), '#text': one.taxCode },
                ...(one.previous ? { PreviousPay: one.previous.pay, PreviousTax: one.previous.tax, TaxYear: one.previous.year } : {}),
              },
            }
          : {}),
        ...(one.plan ? { LoanStart: { '@PlanType': one.plan } } : {}),
      })),
    },
  };
  return `<?xml version="1.0" encoding="UTF-8"?>\n${String(builder.build(tree))}`;
}
