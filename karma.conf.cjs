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
        flags: [
          '--no-sandbox',
          '--disable-gpu',
          '--disable-quic',
          '--no-first-run',
          '--disable-background-networking',
          '--disable-component-update',
          '--disable-sync',
        ],
      },
    },
    singleRun: true,
    restartOnFileChange: false,
  });
