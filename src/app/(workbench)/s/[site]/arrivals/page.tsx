import { ArrivalsScreen } from "@/workbench/arrivals/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/arrivals");

export default function Page() {
  return <ArrivalsScreen />;
}
