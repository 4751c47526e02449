/** A product's drawing. It says nothing its name beside it does not. */
export function ProductPicture({ name, className }: { readonly name: string; readonly className: string }) {
  // Small drawings from the same server: there is nothing for the framework's image pipeline to do.
  // eslint-disable-next-line @next/next/no-img-element
  return <img src={`/pictures/${name}.svg`} alt="" className={className} />
}
