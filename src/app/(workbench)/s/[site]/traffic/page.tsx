import { TrafficScreen } from "@/workbench/traffic/screen";

export default function Page() {
  return <TrafficScreen />;
}
