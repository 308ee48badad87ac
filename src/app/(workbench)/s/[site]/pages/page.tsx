import { PageScreen } from "@/workbench/page/screen";

export default function Page() {
  return <PageScreen />;
}
