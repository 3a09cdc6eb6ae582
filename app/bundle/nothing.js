// Stands for components that nothing shows.
const Nothing = () => null;
export default Nothing;
export { Nothing as Trans, Nothing as IcuTrans, Nothing as IcuTransWithoutContext, Nothing as nodesToString };
