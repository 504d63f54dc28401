import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { expect } from 'chai';
import ts from 'typescript';

const root = join(import.meta.dirname, '..');

/** Files as they are, read once for each project. */
const read = new Map<string, ts.SourceFile | undefined>();

/** How many faults the compiler finds in one file when another reads otherwise than it does. */
function faultsIn(project: string, looked: string, file: string, change: (text: string) => string): number {
  const { config } = ts.readConfigFile(join(root, project), (path) => ts.sys.readFile(path)) as { config: unknown };
  const { options } = ts.parseJsonConfigFileContent(config, ts.sys, root);
  const host = ts.createCompilerHost({ ...options, noEmit: true });
  const changed = resolve(root, file);
  const text = change(readFileSync(changed, 'utf8'));
  expect(text, 'the change found its place').to.not.equal(readFileSync(changed, 'utf8'));
  const source = host.getSourceFile.bind(host);
  host.getSourceFile = (path, ...rest) => {
    if (resolve(path) === changed) return ts.createSourceFile(path, text, ts.ScriptTarget.ESNext);
    const key = `${project} ${path}`;
    if (!read.has(key)) read.set(key, source(path, ...rest));
    return read.get(key);
  };
  // Only what this file needs is read.
  const program = ts.createProgram([join(root, looked)], { ...options, noEmit: true }, host);
  return program.getSemanticDiagnostics(program.getSourceFile(join(root, looked))).length;
}

describe('a new kind that lacks something does not compile', () => {
  it('and as it is, everything does', () => {
    const same = (text: string): string => `${text}\n`;
    expect(faultsIn('tsconfig.core.json', 'core/scene/content-of.ts', 'core/document/layer.ts', same)).to.equal(0);
    expect(faultsIn('tsconfig.core.json', 'core/paint/content.ts', 'core/scene/draw.ts', same)).to.equal(0);
  });

  it('a source of layers needs what it shows', () => {
    const found = faultsIn('tsconfig.core.json', 'core/scene/content-of.ts', 'core/document/layer.ts', (text) =>
      text.replace(
        "z.object({ kind: z.literal('carrier') }),",
        "z.object({ kind: z.literal('carrier') }),\n  z.object({ kind: z.literal('kite') }),",
      ),
    );
    expect(found).to.be.greaterThan(0);
  });

  it('a content needs how it is drawn', () => {
    const found = faultsIn('tsconfig.core.json', 'core/paint/content.ts', 'core/scene/draw.ts', (text) =>
      text.replace("| { kind: 'grade' }", "| { kind: 'grade' }\n  | { kind: 'kite' }"),
    );
    expect(found).to.be.greaterThan(0);
  });

  it('an export needs who writes it', () => {
    const found = faultsIn('tsconfig.web.json', 'web/workers/export.worker.ts', 'core/formats/exports.ts', (text) =>
      text.replace(
        '  png: {',
        "  kite: { name: 'Kite', purpose: 'x', hint: 'x', mediaType: 'x/x', ...video },\n  png: {",
      ),
    );
    expect(found).to.be.greaterThan(0);
  });

  it('a message of a worker needs who receives it', () => {
    const failed = "  z.object({ kind: z.literal('failed'), message: z.string() }),\n";
    const kite = (text: string): string => text.replace(failed, `${failed}  z.object({ kind: z.literal('kite') }),\n`);
    const messages = 'web/workers/depth-messages.ts';
    const client = 'web/workers/depth-client.ts';
    expect(faultsIn('tsconfig.web.json', client, messages, (text) => `${text}\n`)).to.equal(0);
    expect(faultsIn('tsconfig.web.json', client, messages, kite)).to.be.greaterThan(0);
  });
});
