import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { format } from 'prettier';
import { documentSchemaText, withKindTables } from './document-docs.ts';

const read = (name: string): string => readFileSync(join(import.meta.dirname, '../docs', name), 'utf8');

describe('docs of the project format', () => {
  it('are what the code says: the JSON Schema, and the tables of finishes, props and arrivals', async () => {
    expect(JSON.parse(read('document.schema.json'))).to.deep.equal(JSON.parse(documentSchemaText()));
    const page = read('document.md');
    const options = { parser: 'markdown', printWidth: 120 } as const;
    expect(await format(page, options)).to.equal(await format(withKindTables(page), options));
  });
});
