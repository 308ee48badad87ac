/** Where mirrors are, as browsers reach them: three ports after the application’s, unless told otherwise. */
export const mirrorPattern = (): string =>
  process.env.MIRADA_MIRROR ?? `http://*.mirror.localhost:${Number(process.env.PORT ?? 4300) + 3}`;
