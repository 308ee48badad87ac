import { FindingsScreen } from "@/workbench/findings/screen";

export default function Page() {
  return <FindingsScreen />;
}
