import { PopupsScreen } from "@/workbench/popups/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/popups");

export default function Page() {
  return <PopupsScreen />;
}
