// Runs specs in Debian's Chromium; CHROME_BIN names another one.
process.env.CHROME_BIN ||= '/usr/bin/chromium';

module.exports = (config) =>
  config.set({
    frameworks: ['jasmine'],
    plugins: [require('karma-jasmine'), require('karma-chrome-launcher')],
    client: { jasmine: { random: true, timeoutInterval: 60000 } },
    reporters: ['dots'],
    // A spec that computes for long keeps the page from answering; on a busy machine that is no fault.
    pingTimeout: 120000,
    browserDisconnectTimeout: 30000,
    browserNoActivityTimeout: 300000,
    browsers: ['Headless'],
    customLaunchers: {
      Headless: {
        base: 'ChromeHeadless',
        flags: require('./chromium-flags.json'),
      },
    },
    singleRun: true,
    restartOnFileChange: false,
  });
