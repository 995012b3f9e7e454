import generate from 'css-tree/generator';
import parse from 'css-tree/parser';
import walk from 'css-tree/walker';
import type { CssNode, List, ListItem } from 'css-tree';

/** What fetches, whatever its argument. CSS Images 4, section 2.4; the last is an old browser's. */
const FETCHING = new Set(['image-set', '-webkit-image-set', 'src', 'expression', 'image', 'cross-fade', 'element']);

/** Addresses that stay within the drawing: a fragment, or a picture written into it. */
export const stays = (address: string): boolean =>
  /^\s*(#|data:image\/(png|jpeg|webp|gif)[;,])/i.test(address.slice(0, 60));

/**
 * CSS without what fetches: imports and every other at-rule but `@media`, and every declaration that names an address
 * outside the drawing. Read by a parser, so that no escape or comment hides one. `context` as CSS's own grammar has it.
 */
export function quietCss(css: string, context: 'stylesheet' | 'declarationList' | 'value'): string {
  let tree: CssNode;
  try {
    tree = parse(css, { context, parseCustomProperty: true, onParseError: () => undefined });
  } catch {
    return context === 'value' ? 'none' : '';
  }
  const fetches = (node: CssNode): boolean => {
    let found = false;
    walk(node, (n: CssNode) => {
      if (n.type === 'Url' && !/^\s*#/.test(n.value)) found = true;
      if (n.type === 'Function' && (FETCHING.has(n.name.toLowerCase()) || n.name.toLowerCase() === 'url')) found = true;
      // What the parser made nothing of may be anything to another.
      if (n.type === 'Raw' && /[\\/@(]/.test(n.value)) found = true;
    });
    return found;
  };
  if (context === 'value') return fetches(tree) ? 'none' : generate(tree);
  walk(tree, {
    leave(node: CssNode, item: ListItem<CssNode>, list: List<CssNode> | null) {
      const gone =
        (node.type === 'Atrule' && node.name.toLowerCase() !== 'media') ||
        (node.type === 'Declaration' && fetches(node)) ||
        node.type === 'Raw';
      if (gone && list) list.remove(item);
    },
  });
  return generate(tree);
}
