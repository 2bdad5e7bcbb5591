//! The HTTP interface: every resource on one screen.

mod acting;
mod bank_model;
mod bank_page;
mod banks;
mod bench;
mod bundle;
mod calendar_feeds;
mod cell_page;
mod climates;
mod devices;
mod diagnosis_page;
mod diagnosis_weights;
mod equalize_page;
mod equipment;
mod error;
mod extract;
mod guard;
mod house_rules;
mod joints_page;
mod lengths;
mod meta;
mod models;
mod notebook;
mod openapi;
mod pages;
mod people;
mod photo_files;
mod planners;
mod plans;
mod printed;
mod readings;
mod records;
mod reminders;
mod replacements;
mod round_page;
mod rounds;
mod runs;
mod sites;
mod state;
mod stream;
mod string_calculators;
mod test_calculators;
mod today;
mod visits;
mod watch;
pub(crate) mod web_app;

pub use error::{FieldError, Problem};
pub use openapi::document;
pub use state::AppState;

use axum::Router;
use axum::extract::DefaultBodyLimit;
use tower::ServiceBuilder;
use tower_http::catch_panic::CatchPanicLayer;
use tower_http::compression::CompressionLayer;
use tower_http::compression::predicate::{NotForContentType, Predicate as _, SizeAbove};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

/// Largest body that is read: a bank of 20 years of monthly rounds as JSON is under 6 MB.
pub const BODY_LIMIT: usize = 8 * 1024 * 1024;

/// Largest bank that is taken in: its photographs are in the file.
pub const IMPORT_LIMIT: usize = 256 * 1024 * 1024;

/// Every resource with its OpenAPI entry.
fn resources() -> OpenApiRouter<AppState> {
    OpenApiRouter::with_openapi(openapi::frame())
        .routes(routes!(meta::meta))
        .routes(routes!(meta::instruments))
        .routes(routes!(meta::load_demo))
        .routes(routes!(people::list))
        .routes(routes!(people::get, people::put))
        .routes(routes!(climates::list))
        .routes(routes!(climates::read))
        .routes(routes!(sites::list))
        .routes(routes!(sites::put))
        .routes(routes!(models::list))
        .routes(routes!(models::put))
        .routes(routes!(bank_model::supersede))
        .routes(routes!(bank_model::get, bank_model::exchange))
        .routes(routes!(house_rules::list))
        .routes(routes!(house_rules::get, house_rules::put))
        .routes(routes!(house_rules::choices))
        .routes(routes!(diagnosis_weights::get))
        .routes(routes!(house_rules::overrides))
        .routes(routes!(calendar_feeds::get, calendar_feeds::open, calendar_feeds::close))
        .routes(routes!(watch::health))
        .routes(routes!(watch::ready))
        .routes(routes!(devices::list))
        .routes(routes!(devices::code))
        .routes(routes!(devices::pair))
        .routes(routes!(devices::revoke))
        .routes(routes!(replacements::put))
        .routes(routes!(replacements::list))
        .routes(routes!(replacements::undo))
        .routes(routes!(banks::list))
        .routes(routes!(banks::preview))
        .routes(routes!(bank_page::page, banks::put, banks::delete))
        .routes(routes!(diagnosis_page::diagnosis))
        .routes(routes!(joints_page::joints))
        .routes(routes!(banks::edit))
        .routes(routes!(banks::archive))
        .routes(routes!(banks::restore))
        .routes(routes!(banks::set_rules))
        .routes(routes!(cell_page::page))
        .routes(routes!(bundle::bank_json))
        .routes(routes!(bundle::bank_csv))
        .routes(routes!(bundle::round_csv))
        .routes(routes!(bundle::round_json))
        .routes(routes!(notebook::check))
        .routes(routes!(notebook::take))
        .routes(routes!(round_page::page, rounds::put))
        .routes(routes!(round_page::preview))
        .routes(routes!(rounds::edit))
        .routes(routes!(rounds::finish))
        .routes(routes!(readings::put))
        .routes(routes!(today::page))
        .routes(routes!(reminders::put_reminder))
        .routes(routes!(reminders::done))
        .routes(routes!(reminders::postpone))
        .routes(routes!(visits::page, visits::put, visits::discard))
        .routes(routes!(visits::put_entry))
        .routes(routes!(visits::close))
        .routes(routes!(visits::reopen))
        .routes(routes!(visits::put_access))
        .routes(routes!(equalize_page::page))
        .routes(routes!(equipment::get, equipment::put))
        .routes(routes!(runs::list))
        .routes(routes!(runs::page, runs::put, runs::discard))
        .routes(routes!(runs::put_entry))
        .routes(routes!(bench::air))
        .routes(routes!(bench::charger))
        .routes(routes!(test_calculators::capacity))
        .routes(routes!(test_calculators::short_load))
        .routes(routes!(string_calculators::parallel_share))
        .routes(routes!(planners::list))
        .routes(routes!(planners::get, planners::run))
        .routes(routes!(plans::list))
        .routes(routes!(plans::compared))
        .routes(routes!(plans::read))
        .routes(routes!(plans::get, plans::put, plans::withdraw))
        .routes(routes!(plans::printed))
        .routes(routes!(plans::csv))
        .routes(routes!(plans::json))
        .routes(routes!(records::look_at))
        .routes(routes!(records::read))
        .routes(routes!(records::judged))
        .routes(routes!(records::progress))
        .routes(routes!(records::take_out))
        .routes(routes!(records::put_back))
        .routes(routes!(records::page))
        .routes(routes!(printed::report))
        .routes(routes!(printed::sheet))
        .routes(routes!(printed::ics))
        .routes(routes!(photo_files::get, photo_files::remove))
        .routes(routes!(photo_files::put_back))
        .routes(routes!(photo_files::put_caption))
        .merge(
            OpenApiRouter::new()
                .routes(routes!(photo_files::put))
                .layer(DefaultBodyLimit::max(crate::photos::LARGEST + 1024)),
        )
        .merge(
            OpenApiRouter::new().routes(routes!(bundle::import)).layer(DefaultBodyLimit::max(IMPORT_LIMIT)),
        )
}

/// The whole application.
pub fn router(state: AppState) -> Router {
    let (api, document) = resources().split_for_parts();
    // In one, the first outermost: each of its own would be put on the heap and copied with all below it.
    let around = ServiceBuilder::new()
        .layer(axum::middleware::from_fn(watch::log))
        .layer(CatchPanicLayer::custom(watch::panicked))
        // A short answer grows and waits by being packed, and a photograph is packed already.
        .layer(CompressionLayer::new().compress_when(SizeAbove::new(1024).and(NotForContentType::IMAGES)))
        .layer(axum::middleware::map_response(watch::as_problem))
        .layer(axum::middleware::from_fn_with_state(state.clone(), guard::own_host_only))
        .layer(DefaultBodyLimit::max(BODY_LIMIT));
    Router::new()
        .merge(api)
        .merge(openapi::pages(&document))
        .fallback(web_app::serve)
        .layer(around)
        .with_state(state)
}
