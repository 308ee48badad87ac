import { SlotsScreen } from "@/workbench/slots/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/slots");

export default function Page() {
  return <SlotsScreen />;
}
