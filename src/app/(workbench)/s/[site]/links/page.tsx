import { LinksScreen } from "@/workbench/links/screen";

export default function Page() {
  return <LinksScreen />;
}
