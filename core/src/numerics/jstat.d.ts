/** The few distributions of jstat that are used here; the package ships no types. */
declare module 'jstat' {
  interface Chisquare {
    cdf(x: number, degreesOfFreedom: number): number;
  }
  interface Normal {
    cdf(x: number, mean: number, sd: number): number;
    inv(p: number, mean: number, sd: number): number;
  }
  interface Beta {
    inv(p: number, alpha: number, beta: number): number;
    cdf(x: number, alpha: number, beta: number): number;
  }
  interface Student {
    inv(p: number, degreesOfFreedom: number): number;
  }
  const jstat: {
    gammaln(x: number): number;
    chisquare: Chisquare;
    normal: Normal;
    beta: Beta;
    studentt: Student;
  };
  export default jstat;
}
