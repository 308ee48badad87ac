/**
 * Currencies and their minor units: ISO 4217, list one. Codes without a minor unit (metals, test codes) are left out.
 * (Not Intl's digits: CLDR differs from ISO 4217 for 29 codes.)
 */
const byExponent: Record<number, string> = {
  0: "BIF CLP DJF GNF ISK JPY KMF KRW PYG RWF UGX UYI VND VUV XAF XOF XPF",
  2: `AED AFN ALL AMD ANG AOA ARS AUD AWG AZN BAM BBD BDT BGN BMD BND BOB BOV BRL BSD BTN BWP BYN BZD CAD CDF CHE CHF CHW
    CNY COP COU CRC CUC CUP CVE CZK DKK DOP DZD EGP ERN ETB EUR FJD FKP GBP GEL GHS GIP GMD GTQ GYD HKD HNL HRK HTG HUF IDR
    ILS INR IRR JMD KES KGS KHR KPW KYD KZT LAK LBP LKR LRD LSL MAD MDL MGA MKD MMK MNT MOP MRU MUR MVR MWK MXN MXV MYR MZN
    NAD NGN NIO NOK NPR NZD PAB PEN PGK PHP PKR PLN QAR RON RSD RUB SAR SBD SCR SDG SEK SGD SHP SLE SLL SOS SRD SSP STN SVC
    SYP SZL THB TJS TMT TOP TRY TTD TWD TZS UAH USD USN UYU UZS VED VES WST XCD XCG YER ZAR ZMW ZWG ZWL`,
  3: "BHD IQD JOD KWD LYD OMR TND",
  4: "CLF UYW",
};
const exponents = new Map<string, number>();
for (const [exponent, codes] of Object.entries(byExponent))
  for (const code of codes.split(/\s+/)) exponents.set(code, Number(exponent));

/** Every currency of ISO 4217 that has a minor unit, sorted. */
export const currencyCodes: readonly string[] = [...exponents.keys()].sort();

/** Decimals of a currency by ISO 4217; undefined if there is no such currency. */
export const exponentOf = (currency: string): number | undefined => exponents.get(currency);

/**
 * Minor units of an amount in major units such as `"60.00"`; undefined if it is no amount or has more decimals than the
 * currency. Exact up to 2^53 minor units.
 */
export function toMinor(amount: string, currency: string): number | undefined {
  const exponent = exponentOf(currency);
  const match = /^(\d+)(?:\.(\d+))?$/.exec(amount);
  if (exponent === undefined || !match) return undefined;
  const decimals = match[2] ?? "";
  if (decimals.length > exponent) return undefined;
  const minor = Number(`${match[1]}${decimals.padEnd(exponent, "0")}`);
  return Number.isSafeInteger(minor) ? minor : undefined;
}

/** An amount of minor units as decimal text in major units. */
export function toMajorText(minor: number, currency: string): string {
  const exponent = exponentOf(currency) ?? 2;
  const digits = String(Math.abs(minor)).padStart(exponent + 1, "0");
  const sign = minor < 0 ? "-" : "";
  return exponent === 0 ? `${sign}${digits}` : `${sign}${digits.slice(0, -exponent)}.${digits.slice(-exponent)}`;
}

/** An amount of minor units as people read it, in a language (BCP 47 tag), with its currency. */
export function formatMoney(minor: number, currency: string, language: string): string {
  const exponent = exponentOf(currency) ?? 2;
  return new Intl.NumberFormat(language, {
    style: "currency",
    currency,
    minimumFractionDigits: exponent,
    maximumFractionDigits: exponent,
  }).format(minor / 10 ** exponent);
}
