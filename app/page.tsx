import { Shelf } from './Shelf';

export default function ShelfPage() {
  return <Shelf />;
}
