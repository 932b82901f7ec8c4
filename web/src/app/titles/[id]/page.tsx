import { redirect } from 'next/navigation';

export default async function Page({ params }: { params: Promise<{ id: string }> }): Promise<never> {
  redirect(`/titles/${(await params).id}/order`);
}
