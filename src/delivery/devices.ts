import { cachedDevices } from "@/core/visit/device";

/** Reads user agents, equal ones once a process. */
export const readDeviceOnce = cachedDevices();
