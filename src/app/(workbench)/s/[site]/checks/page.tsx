import { ChecksScreen } from "@/workbench/checks/screen";

export default function Page() {
  return <ChecksScreen />;
}
