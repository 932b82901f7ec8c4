import { Stopped } from '@/ui/Stopped';

export default function NotFound() {
  return <Stopped why="There is no such page." />;
}
