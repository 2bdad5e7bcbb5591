//! The `rainshadow` program.

use clap::Parser;
use rainshadow::app::judge_rounds::rederive;
use rainshadow::cli::counting;
use rainshadow::cli::{Cli, Command, backup, calc, demo, serve, simulate};
use rainshadow::db::Db;
use std::io::Write;
use std::process::ExitCode;

/// Gives back what is free: the system's own allocator kept 200 MB of photographs long gone. How soon is
/// set in `.cargo/config.toml`.
#[global_allocator]
static ALLOCATOR: tikv_jemallocator::Jemalloc = tikv_jemallocator::Jemalloc;

fn runtime() -> std::io::Result<tokio::runtime::Runtime> {
    tokio::runtime::Builder::new_multi_thread().worker_threads(2).enable_all().build()
}

/// Runs until it is done, and then waits for no work that nobody waits for.
fn within<T>(work: impl Future<Output = T>) -> std::io::Result<T> {
    let runtime = runtime()?;
    let done = runtime.block_on(work);
    runtime.shutdown_timeout(std::time::Duration::from_secs(2));
    Ok(done)
}

/// Warnings of commands that are not a server.
fn log_warnings() {
    let level = tracing_subscriber::EnvFilter::try_from_default_env().unwrap_or_else(|_unset| "warn".into());
    let _ = tracing_subscriber::fmt().with_env_filter(level).with_writer(std::io::stderr).try_init();
}

fn run(cli: Cli) -> Result<(), Box<dyn std::error::Error>> {
    // A server logs as its settings say.
    if !matches!(cli.command, Command::Serve(_) | Command::Demo(_)) {
        log_warnings();
    }
    match cli.command {
        Command::Serve(args) => within(serve::run(*args))??,
        Command::Settings(args) => rainshadow::cli::settings::print(&args)?,
        Command::Demo(args) => within(demo::run_demo(args))??,
        Command::Calc(args) => calc::run(&args, std::io::stdin(), std::io::stdout())?,
        Command::Rederive { data_dir } => {
            let told = counting("banks judged anew");
            let count = Db::open(&data_dir)?.write_now(|tx| rederive(tx, &told))?;
            told.finish_and_clear();
            writeln!(std::io::stdout(), "{count} rounds judged anew")?;
        }
        Command::Backup(args) => backup::backup(&args)?,
        Command::Doctor(args) => rainshadow::cli::doctor::run(&args)?,
        Command::Restore(args) => backup::restore(&args)?,
        Command::Simulate(simulate::Simulate::Years { bank }) => simulate::years(bank)?,
        Command::Simulate(simulate::Simulate::Monitor { bank, until }) => simulate::monitor(bank, until)?,
        Command::Simulate(simulate::Simulate::Charger(args)) => {
            within(simulate::charger(args))??;
        }
        Command::Openapi => {
            writeln!(std::io::stdout(), "{}", serde_json::to_string_pretty(&rainshadow::http::document())?)?;
        }
    }
    Ok(())
}

fn main() -> ExitCode {
    match run(Cli::parse()) {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            let _ = writeln!(std::io::stderr(), "rainshadow: {error}");
            ExitCode::FAILURE
        }
    }
}
