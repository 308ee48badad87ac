/** What the demo's made-up visitors have in common: devices, places, cart lines. */
export const agents = {
  phone:
    "Mozilla/5.0 (Linux; Android 16; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Mobile Safari/537.36",
  desktop:
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36",
};

export const demoPlaces = {
  lisbon: { country: "PT", region: "PT-11", city: "Lisbon", zone: "Europe/Lisbon", lat: 38.72, lon: -9.14 },
  berlin: { country: "DE", region: "DE-BE", city: "Berlin", zone: "Europe/Berlin", lat: 52.52, lon: 13.4 },
  oslo: { country: "NO", region: "NO-03", city: "Oslo", zone: "Europe/Oslo", lat: 59.91, lon: 10.75 },
  bristol: { country: "GB", region: "GB-BST", city: "Bristol", zone: "Europe/London", lat: 51.45, lon: -2.59 },
  newYork: { country: "US", region: "US-NY", city: "New York", zone: "America/New_York", lat: 40.71, lon: -74.01 },
  porto: { country: "PT", region: "PT-13", city: "Porto", zone: "Europe/Lisbon", lat: 41.15, lon: -8.61 },
};

export const cartLine = (sku: string, category: string, quantity: number, unitPrice: number) => ({
  sku,
  category,
  quantity,
  unitPrice,
});
