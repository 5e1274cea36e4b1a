const IDENTITY = /(?:^|_| )(?:id|nr|no|key|uuid|code|zip|phone)s?$|(?:_| )numbers?$/i;

/**
 * True for a name that tells things apart and measures nothing, such as `call_id`; `callingCodes` is read as
 * `calling Codes`.
 */
export const namesThings = (name: string): boolean => IDENTITY.test(name.replace(/(\p{Ll})(\p{Lu})/gu, "$1 $2"));

/** A name of letters, digits and low lines for what a formula gives. */
export const plainName = (text: string): string => text.replace(/\W+/g, "_").replace(/^_|_$/g, "") || "value";

/** A text that begins large, but for one whose first word is written with a large letter inside: kWh, pH. */
export const capital = (text: string): string =>
  /^\p{Ll}+\p{Lu}/u.test(text) ? text : text.slice(0, 1).toUpperCase() + text.slice(1);
