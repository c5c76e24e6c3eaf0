import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { LEFT, RIGHT, Sheet } from './sheet';

/** The texts of a file as a reader finds them, page by page. */
async function textsOf(file: Buffer): Promise<string[]> {
  const pdf = await getDocument({ data: new Uint8Array(file), useSystemFonts: true, verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let number = 1; number <= pdf.numPages; number++) {
    const { items } = await (await pdf.getPage(number)).getTextContent();
    pages.push(items.map((item) => ('str' in item ? item.str : '')).join(''));
  }
  return pages;
}

describe('A printed document', () => {
  // One name of each script that is claimed to print.
  for (const [script, name] of [
    ['Latin', 'Zoë Brontë-Ångström'],
    ['Latin, extended', 'Łukasz Żółć Őri'],
    ['Welsh and Māori', 'Ŵyn Māori'],
    ['Vietnamese', 'Nguyễn Thị Hạnh'],
    ['the languages of the countries', 'ÂâÊêÎîÔôÛûŴŵŶŷÁáÉéÍíÓóÚúÀàÈèÙùËëÏïÜüŸÿÇçÑñŒœÆæĀāĒēĪīŌōŪū'],
    ['Greek', 'Ωμέγα Παπαδόπουλος'],
    ['Cyrillic', 'Екатерина Щукина'],
    ['Han', '李小龍'],
    ['kana', 'さくらサクラ'],
    ['Hangul', '김민준'],
    ['Thai', 'สมชาย'],
    ['Devanagari', 'अनिल'],
  ])
    it(`prints every letter of a name in ${script}`, async () => {
      const sheet = new Sheet('Names', 'A4').page().title(name ?? '');
      sheet.row([{ text: name ?? '', at: LEFT, width: 300 }], 'bold').text(name ?? '');
      const [page] = await textsOf(await sheet.finish('Works'));
      const letters = (text: string) => [...text.normalize('NFC').replace(/\s/g, '')];
      const printed = letters(page ?? '');
      for (const letter of letters(name ?? '')) expect(printed).withContext(letter).toContain(letter);
    });

  it('prints names in Hebrew and Arabic', async () => {
    const sheet = new Sheet('Names', 'A4')
      .page()
      .row([{ text: 'דוד', at: LEFT }])
      .row([{ text: 'محمد', at: LEFT }]);
    const [page] = await textsOf(await sheet.finish('Works'));
    for (const letter of 'דוד') expect(page).toContain(letter);
    expect(page).toMatch(/[\u0600-\u06ff\ufe70-\ufeff]/);
  });

  it('shows that a letter is missing where no font has it, instead of leaving it out', async () => {
    const [page] = await textsOf(
      await new Sheet('Names', 'A4')
        .page()
        .row([{ text: 'a\u16a0b', at: LEFT }])
        .finish('Works'),
    );
    expect(page).toMatch(/a[□?]b/);
  });

  it('cuts what is too wide with an ellipsis, breaks paragraphs, and begins pages as they fill', async () => {
    const sheet = new Sheet('Long', 'LETTER').page();
    sheet.row([
      { text: 'Wolfeschlegelsteinhausenbergerdorff '.repeat(4), at: LEFT, width: 120 },
      { text: '1,234.56', at: RIGHT, right: true },
    ]);
    for (let line = 0; line < 60; line++)
      sheet.text(`Line ${line} of a text that has more words than fit beside each other in one line of the page, ${'and more '.repeat(8)}`);
    const pages = await textsOf(await sheet.finish('Works'));
    expect(pages.length).toBeGreaterThan(2);
    expect(pages[0]).toMatch(/Wolfe\S*…/);
    expect(pages[0]).toContain('1,234.56');
    expect(pages.join('')).toContain('Line 59');
    expect(pages[1]).toContain(`page 2 of ${pages.length}`);
  });
});
