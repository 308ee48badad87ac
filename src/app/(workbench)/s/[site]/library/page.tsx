import { LibraryScreen } from "@/workbench/library/screen";
import { titleOf } from "@/workbench/parts/desk/screens";

export const generateMetadata = () => titleOf("/library");

export default function Page() {
  return <LibraryScreen />;
}
