import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { format, type FormatConfig } from 'oxfmt';
import { documentSchemaText, withKindTables } from './document-docs.ts';

const read = (name: string): string => readFileSync(join(import.meta.dirname, '../docs', name), 'utf8');

describe('docs of the project format', () => {
  it('are what the code says: the JSON Schema, and the tables of finishes, props and arrivals', async () => {
    expect(JSON.parse(read('document.schema.json'))).to.deep.equal(JSON.parse(documentSchemaText()));
    const page = read('document.md');
    const options: FormatConfig = { printWidth: 120 };
    const [there, wanted] = await Promise.all(
      [page, withKindTables(page)].map((text) => format('page.md', text, options)),
    );
    expect(there!.code).to.equal(wanted!.code);
  });
});
