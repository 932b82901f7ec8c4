import { Stopped } from '@/ui/Stopped';

export default function NotFound() {
  return <Stopped why="This page doesn’t exist." />;
}
