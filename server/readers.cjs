// Readers that hold their answers.

/** A reader that takes nothing of its answer for so long is cut off. */
const SLOWEST_READER_MS = 30_000;

/** Ends the connection of a reader that takes nothing. While nothing was answered yet the silence is ours: something is computed. */
function cutOffSlowReader(request, response, ms = SLOWEST_READER_MS) {
  response.setTimeout(ms, () => response.headersSent && request.socket.destroy());
}

module.exports = { cutOffSlowReader };
