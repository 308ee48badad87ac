import { SettingsScreen } from "@/workbench/settings/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/settings");

export default function Page() {
  return <SettingsScreen />;
}
