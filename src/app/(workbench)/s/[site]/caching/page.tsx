import { CachingScreen } from "@/workbench/caching/screen";

export default function Page() {
  return <CachingScreen />;
}
