import { ReleasesScreen } from "@/workbench/releases/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/releases");

export default function Page() {
  return <ReleasesScreen />;
}
