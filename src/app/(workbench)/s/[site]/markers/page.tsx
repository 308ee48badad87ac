import { MarkersScreen } from "@/workbench/markers/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/markers");

export default function Page() {
  return <MarkersScreen />;
}
