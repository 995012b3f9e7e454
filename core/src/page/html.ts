/** Text made safe for HTML content and quoted attributes. HTML Living Standard, 13.1.2.3 and 13.1.2.4. */
export function escapeHtml(text: string): string {
  return text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
}

/** Text as a CSS string in double quotes. CSS Object Model, section 2.1, "serialize a string", with everything unusual escaped. */
export function cssString(text: string): string {
  return `"${text.replace(/[^a-zA-Z0-9_-]/gu, (c) => `\\${c.codePointAt(0)!.toString(16)} `)}"`;
}
