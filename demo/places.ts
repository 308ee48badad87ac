/** The demo's place service: made-up places for addresses that documentation may use (RFC 5737, RFC 3849). */
export const demoPlaces = `network,country,region,city,zone,lat,lon
192.0.2.0/26,PT,PT-11,Lisbon,Europe/Lisbon,38.72,-9.14
192.0.2.64/26,PT,PT-13,Porto,Europe/Lisbon,41.15,-8.61
192.0.2.128/26,ES,ES-MD,Madrid,Europe/Madrid,40.42,-3.70
192.0.2.192/26,FR,FR-IDF,Paris,Europe/Paris,48.86,2.35
198.51.100.0/26,DE,DE-BE,Berlin,Europe/Berlin,52.52,13.40
198.51.100.64/26,NO,NO-03,Oslo,Europe/Oslo,59.91,10.75
198.51.100.128/26,GB,GB-LND,London,Europe/London,51.51,-0.13
198.51.100.192/26,US,US-NY,New York,America/New_York,40.71,-74.01
203.0.113.0/26,PT,PT-11,Lisbon,Europe/Lisbon,38.72,-9.14
203.0.113.64/26,BR,BR-SP,São Paulo,America/Sao_Paulo,-23.55,-46.63
203.0.113.128/26,AU,AU-NSW,Sydney,Australia/Sydney,-33.87,151.21
203.0.113.192/26,PT,PT-30,Funchal,Atlantic/Madeira,32.65,-16.91
2001:db8:0::/48,PT,PT-11,Lisbon,Europe/Lisbon,38.72,-9.14
2001:db8:1::/48,DE,DE-BE,Berlin,Europe/Berlin,52.52,13.40
2001:db8:2::/48,JP,JP-13,Tokyo,Asia/Tokyo,35.68,139.69
`;
