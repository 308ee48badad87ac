import { MarkersScreen } from "@/workbench/markers/screen";

export default function Page() {
  return <MarkersScreen />;
}
