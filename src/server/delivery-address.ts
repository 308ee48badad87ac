/** The address of the delivery server, as browsers reach it: the port after the application’s, unless told otherwise. */
export const deliveryAddress = (): string =>
  process.env.MIRADA_DELIVERY ?? `http://localhost:${Number(process.env.PORT ?? 4300) + 1}`;
