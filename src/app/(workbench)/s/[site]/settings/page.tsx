import { SettingsScreen } from "@/workbench/settings/screen";

export default function Page() {
  return <SettingsScreen />;
}
