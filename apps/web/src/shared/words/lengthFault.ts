import { eitherThousandOrDecimal } from "@chronometra/core";

/** Why a text is no length of time: asks where a comma can be meant in two ways. */
export function lengthFault(text: string, otherwise: string): string {
  const either = eitherThousandOrDecimal(text);
  if (either === null) return otherwise;
  const [whole, thousand] = [either.replace(",", "."), either.replace(",", "")];
  return `“${either}” could be ${Number(whole)} or ${thousand}; write ${thousand} or ${Number(whole)}.`;
}
