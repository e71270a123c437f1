import Markdown, { type Components } from 'react-markdown'
import remarkGfm from 'remark-gfm'

const LOOKS: Components = {
  table: ({ children }) => (
    <div className="my-2 overflow-x-auto" role="region" aria-label="Table" tabIndex={0}>
      <table className="sheet w-full">{children}</table>
    </div>
  ),
  h1: ({ children }) => <h1 className="mb-2 text-room font-bold">{children}</h1>,
  h2: ({ children }) => <h2 className="mt-5 mb-1 border-b border-current pb-0.5 text-head font-bold">{children}</h2>,
  h3: ({ children }) => <h3 className="mt-3 mb-1 font-bold">{children}</h3>,
  p: ({ children }) => <p className="my-1.5">{children}</p>,
  ul: ({ children }) => <ul className="my-1.5 list-disc space-y-0.5 pl-5">{children}</ul>,
  ol: ({ children }) => <ol className="my-1.5 list-decimal space-y-0.5 pl-6">{children}</ol>,
  code: ({ children }) => <code className="font-mono [overflow-wrap:anywhere]">{children}</code>,
}

/** A sheet of a build as a page to be read, black on white as it will be on paper. */
export const Sheet = ({ text }: { text: string }) => (
  <article className="paper">
    <Markdown remarkPlugins={[remarkGfm]} components={LOOKS}>
      {text}
    </Markdown>
  </article>
)
