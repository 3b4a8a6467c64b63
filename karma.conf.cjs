// Runs specs in Debian's Chromium; CHROME_BIN names another one.
process.env.CHROME_BIN ||= '/usr/bin/chromium';

module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    client: { jasmine: { random: true } },
    reporters: ['dots'],
    browsers: ['Headless'],
    browserNoActivityTimeout: 120000,
    customLaunchers: {
      Headless: {
        base: 'ChromeHeadless',
        flags: require('./chromium-flags.json'),
      },
    },
    singleRun: true,
    restartOnFileChange: false,
  });
