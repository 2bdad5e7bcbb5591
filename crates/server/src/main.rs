//! The `rainshadow` program.

use clap::Parser;
use rainshadow::cli::{Cli, Command, backup, calc, demo, serve, simulate};
use rainshadow::db::{Db, rederive};
use std::io::Write;
use std::process::ExitCode;

fn runtime() -> std::io::Result<tokio::runtime::Runtime> {
    tokio::runtime::Builder::new_multi_thread().worker_threads(2).enable_all().build()
}

fn run(cli: Cli) -> Result<(), Box<dyn std::error::Error>> {
    match cli.command {
        Command::Serve(args) => runtime()?.block_on(serve::run(args))?,
        Command::Demo(args) => runtime()?.block_on(demo::run_demo(args))?,
        Command::Calc(args) => calc::run(&args, std::io::stdin(), std::io::stdout())?,
        Command::Rederive { data_dir } => {
            let count = Db::open(&data_dir)?.write_now(rederive)?;
            writeln!(std::io::stdout(), "{count} rounds judged anew")?;
        }
        Command::Backup(args) => backup::backup(&args)?,
        Command::Restore(args) => backup::restore(&args)?,
        Command::Simulate(simulate::Simulate::Years { bank }) => simulate::years(bank)?,
        Command::Simulate(simulate::Simulate::Charger(args)) => {
            runtime()?.block_on(simulate::charger(args))?;
        }
        Command::Openapi => {
            writeln!(std::io::stdout(), "{}", rainshadow::http::document().to_pretty_json()?)?;
        }
    }
    Ok(())
}

fn main() -> ExitCode {
    tracing_subscriber::fmt()
        .with_env_filter(
            tracing_subscriber::EnvFilter::try_from_default_env().unwrap_or_else(|_unset| "warn".into()),
        )
        .with_writer(std::io::stderr)
        .init();
    match run(Cli::parse()) {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            let _ = writeln!(std::io::stderr(), "rainshadow: {error}");
            ExitCode::FAILURE
        }
    }
}
