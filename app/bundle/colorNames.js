// Of the hundred and forty names of CSS those that Paper's styles use: all our colours are figures.
module.exports = { black: [0, 0, 0], white: [255, 255, 255] };
