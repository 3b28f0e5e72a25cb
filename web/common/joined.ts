/** Numbers kept on one line with what they count: "0.1 %" and "82.60 mm" don't break before their unit. */
export const joined = (words: string): string =>
  words.replace(/(\d) (?=(?:%|px|mm|cm|m|in|ml|cm²|°)(?![\p{L}\d]))/gu, '$1\u00A0')
