import { readFileSync } from 'node:fs';
import Module from 'node:module';
import { compileScript, parse } from '@vue/compiler-sfc';
import { transformSync } from 'esbuild';

/*
 * Loaded by Node before mocha (`node --import`): single-file components are compiled when they are asked for, as the bundler
 * does it; style sheets are nothing.
 */
const extensions = Module._extensions;

extensions['.vue'] = (module, filename) => {
  const { descriptor, errors } = parse(readFileSync(filename, 'utf8'), { filename });
  if (errors.length > 0) throw errors[0];
  const { content } = compileScript(descriptor, { id: filename, inlineTemplate: true });
  const { code } = transformSync(content, { loader: 'ts', format: 'cjs', sourcefile: filename, target: 'es2022' });
  module._compile(code, filename);
};
extensions['.css'] = (module) => module._compile('', 'empty.css');
