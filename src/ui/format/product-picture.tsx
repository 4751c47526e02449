/** A product's picture: a drawing that ships with Steppe, or one that was uploaded. It says nothing its name beside it does not. */
export function ProductPicture({ name, className }: { readonly name: string; readonly className: string }) {
  const source = name.startsWith('own-') ? `/api/pictures/${name}` : `/pictures/${name}.svg`
  // Small pictures from the same server: there is nothing for the framework's image pipeline to do.
  // eslint-disable-next-line @next/next/no-img-element
  return <img src={source} alt="" className={className} />
}
