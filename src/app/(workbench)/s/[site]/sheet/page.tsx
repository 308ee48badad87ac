import { SheetScreen } from "@/workbench/sheet/screen";

export default function Page() {
  return <SheetScreen />;
}
