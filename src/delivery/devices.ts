import { readDevice, type Device } from "@/core/visit/device";
import type { DeviceReader } from "@/core/visit/reading";

const most = 5000;
const known = new Map<string, Device | undefined>();

/** Reads user agents, equal ones once. Keeps the most lately met. */
export const readDeviceOnce: DeviceReader = (userAgent, hints) => {
  if (!userAgent || hints) return readDevice(userAgent, hints);
  if (known.has(userAgent)) return known.get(userAgent);
  const device = readDevice(userAgent);
  if (known.size >= most) known.delete(known.keys().next().value as string);
  known.set(userAgent, device);
  return device;
};
