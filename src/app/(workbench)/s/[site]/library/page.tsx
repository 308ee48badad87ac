import { LibraryScreen } from "@/workbench/library/screen";

export default function Page() {
  return <LibraryScreen />;
}
