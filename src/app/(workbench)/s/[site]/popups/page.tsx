import { PopupsScreen } from "@/workbench/popups/screen";

export default function Page() {
  return <PopupsScreen />;
}
