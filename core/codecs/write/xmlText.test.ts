import { expect, test } from '@jest/globals';
import { xmlText } from './xmlText';

// XML 1.0, fifth edition: 2.2 (Char), 2.4 (predefined entities)
test.each([
  ['Mill & <weir>', 'Mill &amp; &lt;weir&gt;'],
  [`a "b" 'c'`, 'a &quot;b&quot; &apos;c&apos;'],
  ['a\u0000b\u0008c\u001fd\ufffee', 'abcde'],
  ['tab\there', 'tab\there'],
  ['heron 🪿 and half \ud83e', 'heron 🪿 and half '],
])('%j is written as %j', (text, written) => expect(xmlText(text)).toBe(written));
