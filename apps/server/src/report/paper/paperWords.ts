/**
 * Text as it may stand on paper and in a workbook: without what would not be shown and breaks either (controls, halves
 * of letters, marks that turn the direction of what follows). Markup and formulas stay the text they are.
 */
export const plainText = (text: string): string =>
  text
    .replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, "\ufffd")
    .replace(/[\u0000-\u0008\u000b-\u001f\u007f\u200e\u200f\u202a-\u202e\u2066-\u2069\ufffe\uffff]/g, "");
