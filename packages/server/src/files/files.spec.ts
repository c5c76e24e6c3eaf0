import ExcelJS from 'exceljs';
import iconv from 'iconv-lite';
import { deflateRawSync } from 'node:zlib';
import { Refusal } from '../errors';
import { refusal } from '../testing/refusal';
import { readTable } from './table';
import { csvOf, harmless, workbookOf } from './write';

const sent = (content: Buffer | string, encoding?: 'windows-1250' | 'windows-1252') => ({
  name: 'people.csv',
  content: Buffer.from(content as string).toString('base64'),
  ...(encoding ? { encoding } : {}),
});
const ROWS = 'code,name\nZ1,Zoë\n';

/** A zip of one file, packed: what a workbook is made of, and what unpacks to far more than it is. */
function zip(name: string, content: Buffer): Buffer {
  const packed = deflateRawSync(content, { level: 9 });
  const head = (central: boolean) => {
    const fields = Buffer.alloc(central ? 46 : 30);
    fields.writeUInt32LE(central ? 0x02014b50 : 0x04034b50, 0);
    const at = central ? 10 : 8;
    fields.writeUInt16LE(8, at);
    fields.writeUInt32LE(packed.length, at + 10);
    fields.writeUInt32LE(content.length, at + 14);
    fields.writeUInt16LE(name.length, at + 18);
    return Buffer.concat([fields, Buffer.from(name)]);
  };
  const local = Buffer.concat([head(false), packed]);
  const central = head(true);
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(1, 8);
  end.writeUInt16LE(1, 10);
  end.writeUInt32LE(central.length, 12);
  end.writeUInt32LE(local.length, 16);
  return Buffer.concat([local, central, end]);
}

describe('A file that comes in', () => {
  it('with dates that can be read in two ways is asked about once; one date that tells answers for all', async () => {
    const read = async (text: string, dates?: 'month-first' | 'day-first') =>
      (await readTable({ ...sent(text), ...(dates ? { dates } : {}) })).rows.map(({ cells }) => cells[1]);
    const doubtful = 'code,hired\nA,03/04/2026\nB,05/05/2026\n';
    await expectAsync(read(doubtful)).toBeRejectedWith(jasmine.objectContaining({ status: 422, code: 'which-date' }));
    const asked = await read(doubtful).catch((error: unknown) => (error as Refusal).more.fields);
    expect(asked).toEqual([
      { path: 'dates.month-first', expected: '03/04/2026 is 4 Mar 2026' },
      { path: 'dates.day-first', expected: '03/04/2026 is 3 Apr 2026' },
    ] as never);
    expect(await read(doubtful, 'day-first')).toEqual(['2026-04-03', '2026-05-05']);
    expect(await read(doubtful, 'month-first')).toEqual(['2026-03-04', '2026-05-05']);
    expect(await read('code,hired\nA,03/04/2026\nB,12/31/2026\n')).toEqual(['2026-03-04', '2026-12-31']);
    expect(await read('code,hired\nA,03/04/2026\nB,31/12/2026\n')).toEqual(['2026-04-03', '2026-12-31']);
    expect(await refusal(readTable(sent('code,hired\nA,12/31/2026\nB,31/12/2026\n')))).toContain('the month first in some dates');
    expect(await read('code,hired\nA,5/5/2026\n')).toEqual(['2026-05-05']);
  });

  it('is read in UTF-8, with its mark or without, and in UTF-16', async () => {
    for (const content of [Buffer.from(ROWS), Buffer.from(`\ufeff${ROWS}`), iconv.encode(ROWS, 'utf16-le', { addBOM: true })])
      expect((await readTable(sent(content))).rows[0]?.cells).toEqual(['Z1', 'Zoë']);
  });

  it('is asked about when its letters could be read in several ways, and read as was said', async () => {
    const latin = iconv.encode(ROWS, 'windows-1252');
    const asked = await readTable(sent(latin)).catch((error: unknown) => error as Refusal);
    expect(asked).toBeInstanceOf(Refusal);
    if (!(asked instanceof Refusal)) return;
    expect([asked.status, asked.code]).toEqual([422, 'which-encoding']);
    expect(asked.message).toContain('Western European: Zoë');
    expect((await readTable(sent(latin, 'windows-1252'))).rows[0]?.cells[1]).toBe('Zoë');
    expect((await readTable(sent(iconv.encode('code,name\nL1,Łukasz\n', 'windows-1250'), 'windows-1250'))).rows[0]?.cells[1]).toBe(
      'Łukasz',
    );
  });

  it('is refused with the limit it crosses, and what to do', async () => {
    expect(await refusal(readTable(sent('code,name\n')))).toContain('has no rows');
    expect(await refusal(readTable(sent(`code\n${'X\n'.repeat(20_002)}`)))).toContain('more than 20000 rows');
    expect(await refusal(readTable(sent(`${'a,'.repeat(500)}\n${'1,'.repeat(500)}\n`)))).toContain('more than 400 columns');
    expect(await refusal(readTable(sent(`code,name\nX,${'y'.repeat(30_000)}\n`)))).toContain('more than 20000 letters');
    expect(await refusal(readTable(sent('code\n"open')))).toContain('not a readable CSV');
    expect(await refusal(readTable(sent('a\0b,c\n1,2\n')))).toContain('other than text');
    expect(await refusal(readTable(sent(Buffer.from('PK\u0003\u0004 and nothing else'))))).toContain('cannot be read');
  });

  it('never brings the server down by what it unpacks to', async () => {
    // Some 470 MB in less than half a megabyte.
    const bomb = zip('xl/worksheets/sheet1.xml', Buffer.alloc(470_000_000, '<row><c/></row>'));
    expect(bomb.length).toBeLessThan(1_500_000);
    expect(await refusal(readTable({ name: 'bomb.xlsx', content: bomb.toString('base64') }))).toMatch(/MB unpacked; at most 150 are read/);
    expect((await readTable(sent(ROWS))).rows.length).toBe(1);
  });

  it('is a workbook’s first sheet, with dates and formulas as they show', async () => {
    const workbook = new ExcelJS.Workbook();
    const page = workbook.addWorksheet('People');
    page.addRow(['code', 'hired', 'rate']);
    page.addRow(['A1', new Date('2026-01-05T00:00:00Z'), { formula: '20+4.5', result: 24.5 }]);
    workbook.addWorksheet('Other').addRow(['not read']);
    const content = Buffer.from(await workbook.xlsx.writeBuffer()).toString('base64');
    const table = await readTable({ name: 'people.xlsx', content });
    expect(table.headings).toEqual(['code', 'hired', 'rate']);
    expect(table.rows.map((row) => row.cells)).toEqual([['A1', '2026-01-05', '24.5']]);
  });
});

describe('A file that goes out', () => {
  const FORMULAS = ['=HYPERLINK("http://x")', '+1+cmd', '-1+cmd', '@SUM(A1)', '\t=1', '\r=1', ' =1', '＝1', '−1+cmd'];

  it('holds nothing that a spreadsheet would run', async () => {
    for (const text of FORMULAS) expect(harmless(text)).withContext(text).toBe(`'${text}`);
    for (const text of ['-84.20', '−84.20', '+3', '1,250.00', 'Anna-Lena', '5%', 'O’Neill'])
      expect(harmless(text)).withContext(text).toBe(text);
    expect(csvOf([['name'], ['=1+1']])).toContain("'=1+1");
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(
      (await workbookOf({ name: 'P', frozen: { columns: 0, rows: 1 }, bold: [1], rows: [['name'], ['=1+1']], widths: [10] }))
        .buffer as ArrayBuffer,
    );
    expect(workbook.worksheets[0]?.getCell('A2').value).toBe("'=1+1");
  });
});
