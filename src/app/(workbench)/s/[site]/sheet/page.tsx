import { SheetScreen } from "@/workbench/sheet/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/sheet");

export default function Page() {
  return <SheetScreen />;
}
