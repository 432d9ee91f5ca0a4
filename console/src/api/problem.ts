/** An error as the service tells it (RFC 9457); status is 0 where no service answers. */
export class Problem extends Error {
  constructor(
    public status: number,
    detail: string,
  ) {
    super(detail)
  }
}
