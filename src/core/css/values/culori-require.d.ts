/** The library of colours in one file, which loads in a tenth of the time of its two hundred modules. */
declare module 'culori/require' {
  import * as culori from 'culori';
  export default culori;
}
