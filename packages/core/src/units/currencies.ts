/** Currencies that figures can be in (ISO 4217). Each is a kind of its own: euros and crowns cannot be added. */
export const CURRENCIES = [
  'AED', 'AUD', 'BGN', 'BRL', 'CAD', 'CHF', 'CLP', 'CNY', 'CZK', 'DKK', 'EUR', 'GBP', 'HKD', 'HUF', 'ILS', 'INR', 'ISK', 'JPY', 'KRW',
  'KWD', 'MXN', 'NOK', 'NZD', 'PLN', 'RON', 'SAR', 'SEK', 'SGD', 'THB', 'USD', 'ZAR',
] as const; // biome-ignore format: a list of codes
