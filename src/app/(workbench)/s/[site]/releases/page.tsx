import { ReleasesScreen } from "@/workbench/releases/screen";

export default function Page() {
  return <ReleasesScreen />;
}
