declare global {
  namespace Express {
    interface Request {
      requestId: string;
      routeName?: string;
    }
  }
}
export {};
