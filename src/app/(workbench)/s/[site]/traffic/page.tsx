import { TrafficScreen } from "@/workbench/traffic/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/traffic");

export default function Page() {
  return <TrafficScreen />;
}
