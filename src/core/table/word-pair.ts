const TWO_WORDS = /^([^/]*[^/\s][^/]*)\/([^/]*[^/\s][^/]*)$/;

/** The words for what is true and for what is not, written as `yes/no`; nothing where a text is not two words. */
export function wordPairIn(text: string): [yes: string, no: string] | undefined {
  const [, yes, no] = TWO_WORDS.exec(text) ?? [];
  return yes === undefined || no === undefined ? undefined : [yes.trim(), no.trim()];
}
