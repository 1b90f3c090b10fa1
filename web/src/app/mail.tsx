import { useQuery } from '@tanstack/react-query'
import { mailsQuery } from '../api/queries.ts'
import { moment } from '../ui/moments.ts'
import { SiteHeader } from '../ui/site-header.tsx'

/** The stand-in of a mail box: notices of stories that replay themselves. */
export const MailPage = () => {
  const { data } = useQuery(mailsQuery())
  return (
    <div className="flex h-full flex-col">
      <SiteHeader />
      <main className="mx-auto w-full max-w-[820px] flex-1 overflow-auto px-6 py-10">
        <h1 className="font-serif text-[24px] font-semibold">Notices</h1>
        <p className="mt-1 mb-6 font-serif text-[14px] text-ink-2">
          What stories that replay themselves have to say. This box stands in for a mail service: nothing leaves this
          server.
        </p>
        <ol className="grid gap-3">
          {data?.mails.map(({ id, at, to, subject, body }) => (
            <li key={id} className="rounded-lg border border-line bg-sheet px-4 py-3">
              <p className="flex gap-3">
                <b className="font-serif text-[14.5px]">{subject}</b>
                <span className="figures ml-auto text-[12px] text-ink-3">
                  to {to}, {moment(at)}
                </span>
              </p>
              <p className="mt-1 text-[13px] whitespace-pre-line text-ink-2">{body}</p>
            </li>
          ))}
        </ol>
        {data?.mails.length === 0 && <p className="font-serif text-[14px] text-ink-3 italic">None yet.</p>}
      </main>
    </div>
  )
}
