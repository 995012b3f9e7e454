import cssesc from 'cssesc';
import escape from 'escape-html';

/** Text made safe for HTML content and quoted attributes. HTML Living Standard, 13.1.2.3 and 13.1.2.4. */
export const escapeHtml = (text: string): string => escape(text);

/** Text as a CSS string in double quotes, safe in a style sheet within HTML. CSS Object Model, section 2.1, "serialize a string". */
export function cssString(text: string): string {
  return cssesc(text, { quotes: 'double', wrap: true, escapeEverything: true });
}
