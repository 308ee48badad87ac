import { localMetrics } from "@/delivery/http/local-metrics";

export const dynamic = "force-dynamic";
export const GET = localMetrics;
