module.exports = () => {
  throw new Error('Images are not processed here.');
};
